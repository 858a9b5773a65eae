import { fireEvent, screen } from "@testing-library/react";
import type { VesselKind } from "@winter-bead/core";
import { CAUTIONS, guideFor, usualWays, type GuideSetting, type Scene, type Ways } from "@winter-bead/core/src/refill";
import { VesselDrawing } from "../features/refill/VesselDrawing";
import { Cautions } from "../features/refill/StepCautions";
import { sceneWords } from "../features/refill/words";
import { inApp } from "./in-app";

const size = { grossVolume: 28, diameter: 254 };
const guide = (kind: VesselKind, more: Partial<GuideSetting> = {}, ways: Partial<Ways> = {}) =>
  guideFor({
    ...{ guided: "refill", kind, use: "glass", isEmpty: false, behindMembrane: false, isHeavy: true },
    ...more,
    ways: { ...usualWays(kind, 0.85), ...ways },
  });
const sceneOf = (id: string, ...of: Parameters<typeof guide>): Scene =>
  guide(...of).find((step) => step.id === id)!.scene;

function draw(scene: Scene, kind: VesselKind, mount: Ways["mount"] = "alone") {
  const { container, unmount } = inApp(
    <VesselDrawing
      scene={scene}
      kind={kind}
      size={size}
      fillTo={0.85}
      mount={mount}
      width={320}
      height={300}
      label={sceneWords(scene)}
      markWords="77 mm below"
    />,
  );
  const beads = [...container.querySelectorAll("circle")];
  return { container, unmount, text: container.textContent, beads };
}

describe("the drawing of a step", () => {
  test("while beads go in: the mark with its words, the plug, and no filled bead", () => {
    const { text, container } = draw(sceneOf("fill", "screw-head-tank"), "screw-head-tank");
    expect(text).toContain("fill to here");
    expect(text).toContain("77 mm below");
    expect(screen.getByRole("img").getAttribute("aria-label")).toContain("its top plugged, fresh beads going in");
    expect(container.innerHTML).toContain("#a8331f");
  });
  test("topped up, the fresh beads lie on the spent ones", () => {
    const { beads } = draw(sceneOf("wet", "screw-head-tank", { guided: "top-up" }), "screw-head-tank");
    const at = (fill: string) =>
      beads.filter((bead) => bead.getAttribute("fill") === fill).map((bead) => Number(bead.getAttribute("cy")));
    const [spent, fresh] = [at("#102430"), at("#dcebf0")];
    expect(spent.length).toBeGreaterThan(20);
    expect(fresh.length).toBeGreaterThan(10);
    expect(Math.max(...fresh)).toBeLessThan(Math.min(...spent));
  });
  test("heavy is written where a back could be hurt, and nowhere on what one hand carries", () => {
    const heavy = draw(sceneOf("disconnect", "screw-head-tank"), "screw-head-tank");
    expect(heavy.text).toContain("heavy");
    heavy.unmount();
    expect(draw(sceneOf("disconnect", "cartridge", { isHeavy: false }), "cartridge").text).not.toContain("heavy");
  });
  test("emptied there are beads outside the vessel, in the sieve bag, and fewer in it", () => {
    const full = draw(sceneOf("open", "inner-seal-bottle"), "inner-seal-bottle").beads.length;
    const { container, beads } = draw(sceneOf("empty", "inner-seal-bottle"), "inner-seal-bottle");
    expect(beads.length).toBeLessThan(full);
    expect(container.innerHTML).toContain("stroke-dasharray");
  });
  test("canisters on one stand have others beside them while they stand, none while one is worked on", () => {
    const paths = (id: string, mount: Ways["mount"]) => {
      const { container, unmount } = draw(sceneOf(id, "cartridge", {}, { mount }), "cartridge", mount);
      const count = container.querySelectorAll("path").length;
      unmount();
      return count;
    };
    expect(paths("ready", "stand")).toBe(paths("ready", "alone") + 4);
    expect(paths("ready", "lead-lag")).toBe(paths("ready", "alone") + 2);
    expect(paths("fill", "stand")).toBe(paths("fill", "alone"));
  });
  test("up through a cartridge, down through a tank", () => {
    const flow = (kind: VesselKind) => {
      const { container, unmount } = draw(sceneOf("purge", kind), kind);
      const drawn = [...container.querySelectorAll("path")].map((path) => path.getAttribute("d"));
      unmount();
      // An arrow that ends above where it begins points up.
      return drawn.filter((d) => /v-\d[\d.]*m-5 7l5 -7l5 7$/.test(d ?? "")).length;
    };
    expect(flow("cartridge")).toBeGreaterThan(0);
    expect(flow("screw-head-tank")).toBe(0);
  });
  test("a housing shows the old cartridge, none, then the new one; a membrane's water runs along it", () => {
    const drawn = (guided: "sediment" | "membrane", id: string) => {
      const { container, unmount } = draw(sceneOf(id, "cartridge", { guided }), "cartridge");
      const counts = {
        lines: container.querySelectorAll("line").length,
        paths: container.querySelectorAll("path").length,
      };
      unmount();
      return counts;
    };
    expect([drawn("sediment", "look").lines, drawn("sediment", "wipe").lines, drawn("sediment", "swap").lines]).toEqual(
      [7, 0, 7],
    );
    expect(drawn("sediment", "flush").paths).toBe(drawn("membrane", "flush").paths);
    expect(sceneOf("flush", "cartridge", { guided: "membrane" }).along).toBe(true);
    expect(sceneOf("flush", "cartridge", { guided: "sediment" }).along).toBeUndefined();
  });
});

describe("cautions at a step", () => {
  test("each in a line, with more on request", () => {
    const step = guide("screw-head-tank").find(({ id }) => id === "spent")!;
    inApp(<Cautions step={step} />);
    expect(screen.getAllByRole("note")).toHaveLength(step.cautions.length);
    expect(screen.getByText(new RegExp(CAUTIONS["spent-resin"].say))).toBeTruthy();
    expect(screen.queryByText(CAUTIONS["spent-resin"].more)).toBeNull();
    fireEvent.click(screen.getByTestId("more-cautions"));
    expect(screen.getByText(CAUTIONS["spent-resin"].more)).toBeTruthy();
  });
});
