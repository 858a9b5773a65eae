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
const ids = { site: id(), tap: id(), alkaline: id(), meter: id() };
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
  readonly tapId?: string;
  readonly limit?: number;
  /** What comes through the membrane, ppm, on each of those days beside 160 before it. */
  readonly products?: readonly number[];
  /** What the meter showed at the filling; `undefined` where nobody wrote it down. */
  readonly startTotal?: number | undefined;
  /** The days whose water was typed: all, or none. */
  readonly isMetered?: boolean;
}

/** A rig with a vessel or two in a row, filled before its first day. @returns its id */
async function rig(told: RigTold): Promise<string> {
  const {
    name,
    use = "glass",
    membrane = false,
    outputs,
    tapId = ids.tap,
    products,
    isMetered = true,
    limit = 10,
  } = told;
  const startTotal = "startTotal" in told ? told.startTotal : 0;
  const [rigId, membraneId, carbonId] = [id(), id(), id()];
  const places = (outputs[0] ?? []).map((_, i) => ({ stageId: id(), vesselId: id(), name: `${name} ${"AB"[i]}` }));
  const start = Date.now() - (outputs.length + 0.2) * DAY;
  const marks = { watch: 0.6 * limit, limit, hard: 20, scale: "nacl" as const };
  const [grossVolume, diameter, flow] = membrane ? [2.4, 100, 0.3] : [14, 180, 3];
  for (const { vesselId, name: called } of places)
    await put(`vessels/${vesselId}`, {
      ...{ name: called, kind: "screw-head-tank", grossVolume, diameter, fillFraction: 0.85 },
      marks: membrane ? { watch: 1, limit: 2, hard: 4, scale: "nacl" } : marks,
    });
  await put(`rigs/${rigId}`, {
    ...{ name, use, tapId, flow, jobName: "house", litresPerJob: 50 },
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
      ...{ filledAt: iso(start + 1000), ...(startTotal === undefined ? {} : { startTotal }) },
    });
  for (const [day, read] of outputs.entries())
    await put(`visits/${id()}`, {
      ...{ rigId, tapId, at: iso(start + (day + 0.9) * DAY) },
      ...(isMetered ? { water: { by: "total", total: (day + 1) * (membrane ? 40 : 120) } } : {}),
      readings: [
        ...read.map((value, i) => ({
          ...{ id: id(), point: "output", stageId: places[i]!.stageId, meterId: ids.meter, value },
        })),
        ...(products
          ? [
              { id: id(), point: "feed", meterId: ids.meter, value: 160 },
              { id: id(), point: "after-membrane", stageId: membraneId, meterId: ids.meter, value: products[day] },
            ]
          : []),
      ],
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
  await put(`taps/${ids.alkaline}`, {
    ...{ siteId: ids.site, name: "Chalk well", low: 250, typical: 270, high: 290, scale: "nacl" },
    ...{ alkalinity: 240, ph: 7.6 },
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
      await expect(page.getByTestId("verdict")).toContainText("If it was wrong, the limit falls");
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

    test("a lead above its mark asks for the act that helps", async ({ page }) => {
      const name = `Lead ${units}`;
      const outputs = Array.from({ length: 34 }, (_, day) => (day < 28 ? [0, 0] : [20 + 6 * (day - 28), 0]));
      const rigId = await rig({ name, outputs });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(page.getByTestId("verdict-title")).toHaveText(`${name}: watch: rotate`);
      await expect(standing(page, name, "Spent")).toBeVisible();
      await expect(page.getByTestId("verdict-reason")).toContainText(`The lead, ${name} A, out 50 ppm`);
      await expect(page.getByTestId("verdict-reason")).toContainText(`${name} B still guards: move it to the front`);
      await openAt(page, `${server.url}/log/${rigId}`);
      await expect(page.getByTestId("live-verdict")).toHaveText("Watch: rotate");
      await expect(page.getByTestId("live-verdict")).toBeInViewport({ ratio: 1 });
    });

    test("what carbonic acid shows dries away without a spot, and the mark may be raised", async ({ page }) => {
      const name = `Chalk ${units}`;
      const rigId = await rig({ name, tapId: ids.alkaline, limit: 5, outputs: alone(0, 0, 0) });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(page.getByTestId("verdict")).toContainText("is carbonic acid: it dries away without a spot");
      await page.getByRole("link", { name: "Raise the mark" }).click();
      await expect(page.getByTestId("field-limit")).toBeVisible();
    });

    test("water that nobody typed is asked about once, in a word", async ({ page }) => {
      const name = `Quiet ${units}`;
      const rigId = await rig({ name, outputs: alone(0, 0), isMetered: false });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      const question = page.getByTestId("water-unknown");
      await expect(question).toContainText("Used since ");
      await expect(page.getByTestId("verdict")).not.toContainText(`0 ${litres} metered`);
      await question.getByTestId("used-job").click();
      await expect(page.getByTestId("toast")).toContainText(
        `Counted as a guess: about ${units === "us" ? "13.2 US gal" : "50 L"}`,
      );
      await allSent(page);
      await expect(question).toContainText("Used since the filling, until");
      await question.getByTestId("used-none").click();
      await expect(page.getByTestId("toast")).toContainText("Counted: none");
      await expect(question).toHaveCount(0);
      await allSent(page);
    });

    test("a meter's first total asks what it showed at the filling, and drops nothing of it", async ({ page }) => {
      const name = `First ${units}`;
      const rigId = await rig({ name, outputs: alone(0), isMetered: false, startTotal: undefined });
      await openAt(page, `${server.url}/log/${rigId}`);
      await tapDigits(page, "0");
      await page.getByTestId("log-water").click();
      const total = units === "us" ? "80" : "300";
      await tapDigits(page, total);
      await expect(page.getByTestId("log-help")).toContainText("The first total. What did it show at the filling?");
      await page.getByTestId("new-at-filling").click();
      await page.getByTestId("keep-it").click();
      await allSent(page);
      await openAt(page, `${server.url}/history/${rigId}`);
      await expect(page.getByRole("main")).toContainText(`${total} ${litres}metered`);
    });

    test("a membrane above its own usual is told, before the resin pays for it", async ({ page }) => {
      const name = `Climbs ${units}`;
      const products = [...Array.from({ length: 8 }, () => 8), 15, 16, 16];
      const rigId = await rig({
        ...{ name, use: "aquarium", membrane: true, products },
        outputs: alone(...days(products.length)),
      });
      await openAt(page, `${server.url}/?rig=${rigId}`);
      await expect(page.getByTestId("verdict-reason")).toContainText("The membrane lets 10 % through, usually 5 %");
      await openAt(page, `${server.url}/log/${rigId}`);
      await expect(page.getByTestId("live-verdict")).toHaveText("Watch");
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
