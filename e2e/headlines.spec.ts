import type { Page } from "@playwright/test";
import { allSent, expect, RunningServer, tapDigits, test } from "./support/app";
import { openAt } from "./support/places";

/*
 * What stands large where something is odd, unknown or wrong: the word, not litres that nobody knows; on the rack and in the
 * log, on a phone with its browser's bars, in both unit systems.
 */
let server: RunningServer;
let made = 0;
const id = () => `01890000-0000-7000-9000-${(made += 1).toString(16).padStart(12, "0")}`;
const ids = { site: id(), tap: id(), meter: id() };
const DAY = 86_400_000;
const iso = (at: number) => new Date(at).toISOString();

const put = async (path: string, body: object) => {
  const { status, body: said } = await server.request("PUT", `/api/v1/${path}`, body);
  expect([status, status < 300 ? "" : JSON.stringify(said)]).toEqual([expect.any(Number), ""]);
};

interface RigTold {
  readonly name: string;
  readonly use?: "glass" | "aquarium";
  readonly membrane?: boolean;
  /** Output of each day of work behind each vessel, the last of them yesterday. */
  readonly outputs: readonly (readonly number[])[];
}

/** A rig with a vessel or two in a row, filled before its first day. @returns its id */
async function rig({ name, use = "glass", membrane = false, outputs }: RigTold): Promise<string> {
  const [rigId, membraneId, carbonId] = [id(), id(), id()];
  const places = (outputs[0] ?? []).map((_, i) => ({ stageId: id(), vesselId: id(), name: `${name} ${"AB"[i]}` }));
  const start = Date.now() - (outputs.length + 0.2) * DAY;
  const marks = { watch: 6, limit: 10, hard: 20, scale: "nacl" as const };
  const [grossVolume, diameter, flow] = membrane ? [2.4, 100, 0.3] : [14, 180, 3];
  for (const { vesselId, name: called } of places)
    await put(`vessels/${vesselId}`, {
      ...{ name: called, kind: "screw-head-tank", grossVolume, diameter, fillFraction: 0.85 },
      marks: membrane ? { watch: 1, limit: 2, hard: 4, scale: "nacl" } : marks,
    });
  await put(`rigs/${rigId}`, {
    ...{ name, use, tapId: ids.tap, flow, jobName: "house", litresPerJob: 50 },
    stages: [
      ...(membrane
        ? [
            { id: carbonId, kind: "carbon" },
            { id: membraneId, kind: "membrane", rejection: 0.95 },
          ]
        : []),
      ...places.map(({ stageId }) => ({ id: stageId, kind: "resin" })),
    ],
  });
  await put(`arrangements/${id()}`, {
    ...{ rigId, at: iso(start), did: "hung-in" },
    places: places.map(({ stageId, vesselId }) => ({ stageId, vesselId })),
  });
  for (const { vesselId } of places)
    await put(`charges/${id()}`, {
      ...{ vesselId, rigId, grade: "virgin", resinLitres: 0.85 * grossVolume, packing: "settled" },
      ...{ filledAt: iso(start + 1000), startTotal: 0 },
    });
  for (const [day, read] of outputs.entries())
    await put(`visits/${id()}`, {
      ...{ rigId, tapId: ids.tap, at: iso(start + (day + 0.9) * DAY) },
      water: { by: "total", total: (day + 1) * (membrane ? 40 : 120) },
      readings: read.map((value, i) => ({
        ...{ id: id(), point: "output", stageId: places[i]!.stageId, meterId: ids.meter, value },
      })),
    });
  return rigId;
}

const alone = (...values: readonly number[]) => values.map((value) => [value]);
const days = (count: number) => Array.from({ length: count }, () => 0);

test.beforeAll(async () => {
  server = await RunningServer.start();
  await put(`sites/${ids.site}`, { name: "Ropewalk yard" });
  await put(`taps/${ids.tap}`, {
    siteId: ids.site,
    name: "Yard tap",
    low: 145,
    typical: 160,
    high: 180,
    scale: "nacl",
  });
  await put(`meters/${ids.meter}`, { name: "Pocket", scale: "nacl", compensated: true });
});
test.afterAll(async () => server.remove());
test.use({ viewport: { width: 390, height: 664 } });

/** A rig on the wall or in the list, with what stands large for it. */
const standing = (page: Page, name: string, large: string) =>
  page.getByRole("button", { name: new RegExp(`^${name}: .*${large}`) });

for (const units of ["metric", "us"] as const) {
  const litres = units === "us" ? "US gal" : "L";
  test.describe(`in ${units} units`, () => {
    test.beforeEach(({ page }) =>
      page.addInitScript(
        (value) => localStorage.setItem("winter-bead-settings", JSON.stringify({ units: value })),
        units,
      ),
    );

    test("one look above the limit is a word, and looked at again it is settled", async ({ page }) => {
      const name = `Odd ${units}`;
      const rigId = await rig({ name, outputs: alone(...days(4)) });
      await openAt(page, `${server.url}/log/${rigId}`);
      await tapDigits(page, "14");
      await expect(page.getByTestId("live-verdict")).toHaveText("Look again");
      await expect(page.getByTestId("live-verdict")).toBeInViewport({ ratio: 1 });
      await expect(page.getByTestId("live-if-wrong")).toHaveText(new RegExp(`^if it was wrong: [\\d,]+ ${litres}`));
      await page.getByTestId("look-again").click();
      await expect(page.getByTestId("log-output")).not.toContainText("14");
      await tapDigits(page, "15");
      // Two that agree are believed, and the count does not explain them: no litres, but the way to the causes.
      await expect(page.getByTestId("live-verdict")).not.toHaveText("Look again");
      await page.getByTestId("keep-it").click();
      await allSent(page);
      await expect(standing(page, name, "Finish")).toBeVisible();
      await expect(page.getByTestId("verdict-reason")).toContainText("look for water round the beads");
      await page.getByTestId("likely-causes").click();
      await expect(page.getByTestId("likely-cause").first()).toContainText("Water");
    });

    test("above the stop point the water is not to be used", async ({ page }) => {
      const name = `Above ${units}`;
      const rigId = await rig({ name, outputs: alone(...days(4), 22) });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(page.getByTestId("verdict-reason")).toContainText("Don’t use this water");
      await expect(standing(page, name, "Look again")).toBeVisible();
      await expect(page.getByTestId("verdict-more").first()).toContainText(new RegExp(`If it was wrong, .* ${litres}`));
    });

    test("both off zero are both spent", async ({ page }) => {
      const name = `Both ${units}`;
      const outputs = Array.from({ length: 40 }, (_, day) =>
        day < 28 ? [0, 0] : day < 36 ? [20 + 6 * (day - 28), 0] : [120, 8 + 3 * (day - 36)],
      );
      const rigId = await rig({ name, outputs });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(standing(page, name, "Both are spent")).toBeVisible();
      await expect(page.getByTestId("verdict")).toContainText("both off zero");
    });

    test("behind a membrane an unknown carbon dioxide is named, with what would narrow it, and KH is asked for in degrees", async ({
      page,
    }) => {
      const name = `Tank ${units}`;
      const rigId = await rig({ name, use: "aquarium", membrane: true, outputs: alone(0, 0, 0) });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(standing(page, name, "to the first leak")).toBeVisible();
      const sentence = page.getByTestId("verdict").getByText(/was never measured/);
      await expect(sentence).toContainText(
        new RegExp(`with your tap’s KH and pH it would be about [\\d,.]+ to [\\d,.]+ ${litres}`),
      );
      await page.getByRole("link", { name: "Enter KH and pH" }).click();
      await page.getByTestId("field-alkalinity-unit").click();
      await page.getByTestId("field-alkalinity").fill("6");
      await expect(page.getByText("107.1 ppm CaCO3")).toBeVisible();
    });

    test("chlorine behind the carbon stops the filling at once", async ({ page }) => {
      const name = `Bitten ${units}`;
      const rigId = await rig({ name, use: "aquarium", membrane: true, outputs: alone(0, 0) });
      await put(`pressure-checks/${id()}`, { rigId, at: iso(Date.now() - 3_600_000), chlorine: 0.5 });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(standing(page, name, "Don’t fill")).toBeVisible();
      await expect(page.getByTestId("verdict-reason")).toContainText("change the carbon");
      await openAt(page, `${server.url}/log/${rigId}`);
      await expect(page.getByTestId("live-verdict")).toHaveText("Don’t fill");
      await expect(page.getByTestId("live-verdict")).toBeInViewport({ ratio: 1 });
    });
  });
}
