import { explainConstantLife, explainLife, frontDepth, shareTaken, unwrap } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { act, fireEvent, screen, within } from "@testing-library/react";
import { useState } from "react";
import { BeadColumn, type BeadColumnProps } from "../ui/BeadColumn";
import { Caution, Choice, HeavyButton } from "../ui/boxes";
import { Explained } from "../ui/Explained";
import { WithPad } from "../ui/FieldPad";
import { NumberField } from "../ui/fields";
import { NumberPad } from "../ui/NumberPad";
import { StateRing } from "../ui/StateRing";
import { FrontChart } from "../features/history/FrontChart";
import { assess } from "../features/rack/assess";
import { PALETTES } from "../ui/theme";
import { inApp } from "./in-app";
import { clean, rigWith } from "./sample-rig";

describe("the number pad", () => {
  test("has twelve named keys that say what was pressed", () => {
    const pressed: string[] = [];
    inApp(<NumberPad onKey={(key) => pressed.push(key)} />);
    const keys = within(screen.getByRole("group", { name: "Number pad" })).getAllByRole("button");
    expect(keys).toHaveLength(12);
    for (const name of ["7", "Point", "Delete the last digit"]) fireEvent.click(screen.getByRole("button", { name }));
    expect(pressed).toEqual(["7", ".", "back"]);
  });
});

describe("a choice", () => {
  test("shows all of it, tells which is chosen and says when another is", () => {
    const chosen: string[] = [];
    inApp(
      <Choice
        label="Resin"
        value="virgin"
        options={[
          { value: "virgin", label: "Virgin" },
          { value: "regenerated", label: "Regenerated" },
        ]}
        onChange={(value) => chosen.push(value)}
      />,
    );
    expect(screen.getByRole("radiogroup", { name: "Resin" })).toBeTruthy();
    expect(screen.getByRole("radio", { name: "Virgin" }).getAttribute("aria-checked")).toBe("true");
    fireEvent.click(screen.getByRole("radio", { name: "Regenerated" }));
    expect(chosen).toEqual(["regenerated"]);
  });
});

describe("a field", () => {
  test("has its unit in its name and its complaint described", () => {
    inApp(
      <NumberField label="Flow" unit="L/min" value="0" onChange={() => undefined} error="The flow must be above 0." />,
    );
    const field = screen.getByLabelText("Flow, L/min");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    const note = document.getElementById(field.getAttribute("aria-describedby")!);
    expect(note!.textContent).toBe("The flow must be above 0.");
  });
});

describe("a field whose figure can't be", () => {
  function Flow() {
    const [value, setValue] = useState("30");
    return (
      <NumberField
        label="Flow"
        value={value}
        onChange={setValue}
        error={Number(value) < 10 ? "Too little." : undefined}
      />
    );
  }
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());
  const type = (value: string) => fireEvent.change(screen.getByLabelText("Flow"), { target: { value } });

  test("tells so when the hand rests, not of the first digit of two", () => {
    inApp(<Flow />);
    type("4");
    expect(screen.queryByText("Too little.")).toBeNull();
    type("40");
    act(() => void jest.advanceTimersByTime(2_000));
    expect(screen.queryByText("Too little.")).toBeNull();
    type("4");
    act(() => void jest.advanceTimersByTime(2_000));
    expect(screen.getByText("Too little.")).toBeTruthy();
  });
  test("tells so at once when the hand leaves", () => {
    inApp(<Flow />);
    type("4");
    fireEvent.blur(screen.getByLabelText("Flow"));
    expect(screen.getByText("Too little.")).toBeTruthy();
  });
});

describe("the pad under fields", () => {
  function Two() {
    const [typed, setTyped] = useState({ a: "160", b: "" });
    return (
      <View id="place">
        <WithPad>
          <NumberField label="A" value={typed.a} onChange={(a) => setTyped({ ...typed, a })} />
          <NumberField label="B" value={typed.b} onChange={(b) => setTyped({ ...typed, b })} />
        </WithPad>
      </View>
    );
  }
  const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
  const press = (...names: string[]) => names.forEach((name) => fireEvent.click(screen.getByRole("button", { name })));
  beforeAll(() => {
    Element.prototype.scrollIntoView = () => undefined;
    Object.assign(window, { innerWidth: 390 });
    fireEvent(window, new Event("resize"));
  });

  test("is there while a number is typed, writes where the caret stands, and goes on to the next", () => {
    inApp(<Two />);
    expect(screen.queryByTestId("field-pad")).toBeNull();
    expect(field("A").inputMode).toBe("none");
    act(() => field("A").focus());
    field("A").setSelectionRange(3, 3);
    press("Delete the last digit", "7", "Point", "5");
    expect(field("A").value).toBe("167.5");
    field("A").setSelectionRange(0, 5);
    press("9");
    expect(field("A").value).toBe("9");
    act(() => press("Next"));
    expect(document.activeElement).toBe(field("B"));
    press("2");
    expect([field("A").value, field("B").value]).toEqual(["9", "2"]);
    expect(screen.queryByRole("button", { name: "Next" })).toBeNull();
  });
});

describe("a heavy button", () => {
  test("does nothing while it is not ready", () => {
    let presses = 0;
    inApp(
      <HeavyButton disabled onPress={() => (presses += 1)}>
        Keep it
      </HeavyButton>,
    );
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    expect(presses).toBe(0);
  });
});

test("a caution is a note that begins with a word, not a colour", () => {
  inApp(<Caution>Let the pressure down first.</Caution>);
  expect(screen.getByRole("note").textContent).toBe("Mind: Let the pressure down first.");
});

describe("an explained number", () => {
  test("opens one tap below with formula, inputs, assumptions and school, and its inputs open too", () => {
    const explanation = unwrap(
      explainLife({
        water: { reading: { value: 163, scale: "nacl" } },
        capacity: { grade: "virgin" },
        bed: { volume: 10.4, diameter: 165, flow: 3.4 },
        limit: { value: 8, scale: "nacl" },
      }),
    );
    inApp(<Explained explanation={explanation} />);
    expect(screen.queryByTestId("working")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Why this number" }));
    const working = screen.getByTestId("working");
    expect(within(working).getByTestId("explain-formula").textContent).toBe(explanation.formula);
    expect(within(working).getAllByTestId("explain-input")).toHaveLength(explanation.inputs.length);
    expect(working.textContent).toMatch(/\(assumption\)/);
    expect(working.textContent).toMatch(/School: resin chemistry.*Source: Hall/);
    fireEvent.click(screen.getByRole("button", { name: "Where Throughput at the limit comes from" }));
    expect(screen.getAllByTestId("working")).toHaveLength(2);
    expect(working.textContent).toMatch(/uneven flow/);
  });

  test("can be the number itself", () => {
    inApp(
      <Explained explanation={explainConstantLife(200_000, 160, 12)}>
        <span>1,990 L</span>
      </Explained>,
    );
    const number = screen.getByRole("button", { name: /^Life by the trade constant/ });
    expect(number.getAttribute("aria-expanded")).toBe("false");
    fireEvent.click(number);
    expect(number.getAttribute("aria-expanded")).toBe("true");
    expect(screen.getByTestId("explain-formula").textContent).toBe("K / ppm × V / c × g");
  });
});

describe("the bead column", () => {
  const props: BeadColumnProps = {
    throughput: 0.5,
    transferUnits: 30,
    front: { low: 0.4, typical: frontDepth(0.5, 30), high: 0.6 },
    up: false,
    proportion: 0.35,
    height: 240,
    label: "Van: the front stands at 49 % of the depth",
  };
  const draw = (more: Partial<BeadColumnProps> = {}) => {
    const { container } = inApp(<BeadColumn {...props} {...more} />);
    const band = container.querySelector('[data-testid="frosted-band"]')!;
    const attribute = (name: string) => Number(band.getAttribute(name));
    const [top, height] = [attribute("data-bed-top"), attribute("data-bed-height")];
    const edges = [(attribute("y") - top) / height, (attribute("y") + attribute("height") - top) / height];
    const count = (...looks: readonly string[]) =>
      looks.reduce((sum, look) => {
        const path = container.querySelector(`[data-testid="${look}"]`)?.getAttribute("d") ?? "";
        return sum + path.split("M").length - 1;
      }, 0);
    const beads = count("beads", "beads-unsure");
    return { container, edges, beads, taken: count("beads-taken", "beads-taken-unsure") };
  };

  test("says in words what it shows", () => {
    draw();
    expect(screen.getByRole("img", { name: /front stands at 49 %/ })).toBeTruthy();
  });
  test("frosts from the early to the late front, counted from where the water comes in", () => {
    expect(draw().edges[0]).toBeCloseTo(0.4, 6);
    expect(draw().edges[1]).toBeCloseTo(0.6, 6);
    expect(draw({ up: true, front: { low: 0.2, typical: 0.25, high: 0.3 } }).edges[0]).toBeCloseTo(0.7, 6);
  });
  test("fills as many beads as the model has taken", () => {
    const taken = (throughput: number) => draw({ throughput, front: { low: 0, typical: 0, high: 0 } }).taken;
    expect(shareTaken(0.5, 0.1, 30)).toBe(1);
    expect(taken(0.9)).toBeGreaterThan(1.5 * taken(0.5));
    expect(taken(0)).toBe(0);
  });
  test("keeps its beads when it is small", () => {
    const full = draw({ height: 240 }).beads;
    expect(full).toBeGreaterThan(60);
    expect(draw({ height: 84 }).beads).toBeGreaterThan(full / 4);
  });
  test("is an empty outline where nothing is known", () => {
    const { container } = inApp(<BeadColumn {...props} front={undefined} />);
    expect(container.querySelector('[data-testid="beads"]')).toBeNull();
  });
  test("on a dark ground the fresh beads are the light ones, on a light one the taken ones the dark", () => {
    const lightness = (colour: string) =>
      [1, 3, 5].reduce((sum, at) => sum + parseInt(colour.slice(at, at + 2), 16), 0);
    for (const { free, taken, card } of [PALETTES.light, PALETTES.dark]) {
      expect(lightness(free) - lightness(taken)).toBeGreaterThan(250);
      expect(free).not.toBe(card);
    }
  });
});

test("the state ring fills with the need", () => {
  const level = (state: "fine" | "watch" | "finish" | "change") =>
    Number(
      inApp(<StateRing state={state} />)
        .container.querySelector("rect")!
        .getAttribute("height"),
    );
  const levels = (["fine", "watch", "finish", "change"] as const).map(level);
  expect(levels).toEqual([...levels].sort((a, b) => a - b));
  expect(new Set(levels).size).toBe(4);
});

describe("the chart of one vessel", () => {
  const facts = rigWith([...clean(14), 3, 8]);
  const { standing, front } = assess(facts);
  const chart = (withFront: boolean) =>
    inApp(
      <FrontChart
        outputs={standing!.outputs}
        marks={facts.vessel.marks}
        standing={withFront ? standing : undefined}
        front={withFront ? front : undefined}
        width={380}
        label="Output of Bay against litres"
      />,
    ).container;

  test("has a point for every reading and a line for every mark", () => {
    const drawn = chart(true);
    expect(drawn.querySelectorAll("circle")).toHaveLength(16);
    expect(drawn.textContent).toMatch(/watch 6.*limit 10.*stop 20/);
    expect(drawn.textContent).toMatch(/L treated/);
  });
  test("speaks in the scale of the meter that read last, as the verdict does", () => {
    const by442 = standing!.outputs.map((reading) => ({ ...reading, scale: "442" as const }));
    const { container } = inApp(
      <FrontChart
        outputs={by442}
        marks={facts.vessel.marks}
        standing={standing}
        front={front}
        width={380}
        label="Bay"
      />,
    );
    expect(container.textContent).toMatch(/watch 8\.\d+.*limit 14.*stop 28.*out, ppm 442/);
  });
  test("draws the front only for the charge in use", () => {
    expect(chart(true).querySelector('[data-testid="front-line"]')).not.toBeNull();
    expect(chart(false).querySelector('[data-testid="front-line"]')).toBeNull();
  });
});
