import { frontDepth, life, unwrap, workOutLife, type LifeInput } from "../core/src/index";
import { expect, test } from "./support/app";
import { expectWorkingTrue, openAll, shown } from "./support/workings";

const SCHOOLS = ["constant", "rating", "chemistry", "history"] as const;

for (const units of ["metric", "us"] as const) {
  test(`every shown formula gives the shown number, in ${units} units`, async ({ page, demo }) => {
    await page.addInitScript(
      (value) => localStorage.setItem("winter-bead-settings", JSON.stringify({ units: value })),
      units,
    );
    await page.goto(`${demo.url}/size`);
    await expect(page.getByTestId("school-rating-typical")).toHaveCount(0);
    await page.getByRole("button", { name: /^Assumptions/ }).click();
    await page.getByTestId("plan-ratedVolume").fill("5000");
    await page.getByTestId("plan-ratedPpm").fill("90");
    await page.getByTestId("plan-ratedResin").fill("8");
    for (const school of SCHOOLS) {
      const place = page.getByTestId(`explain-${school}`);
      await place.getByRole("button").first().click();
      await openAll(place);
      const typical = await page.getByTestId(`school-${school}-typical`).innerText();
      expect(typical).toContain(units === "us" ? "US gal" : " L");
      expect(await place.getByTestId("explain-result").first().innerText()).toBe(typical.split(" ")[0]);
      for (const working of await place.getByTestId("working").all()) await expectWorkingTrue(working);
    }
    for (const name of [/^Contact time/, /^Bed volumes/, /^Pressure loss/, /^Weight/]) {
      await page.getByRole("button", { name }).click();
    }
    for (const working of await page.getByTestId("working").all()) await expectWorkingTrue(working);
  });
}

test("the litres left explain themselves on the log too", async ({ page, demo }) => {
  await page.goto(demo.url);
  await page.getByTestId("log-a-reading").click();
  await page.getByTestId("why-left").getByRole("button").click();
  await expectWorkingTrue(page.getByTestId("working"));
});

test("every digit of the feed answers at once, in every school", async ({ page, demo }) => {
  await page.goto(`${demo.url}/size`);
  const chemistry = page.getByTestId("school-chemistry-typical");
  const before = await chemistry.innerText();
  const range = page.getByTestId("feed-range");
  await expect(range).toHaveText("from 130 to 210");
  await page.getByTestId("plan-typical").fill("320");
  await expect(range).toHaveText("from 260 to 420");
  await expect(chemistry).not.toHaveText(before);
  const half = shown((await chemistry.innerText()).split(" ")[0]!) / shown(before.split(" ")[0]!);
  expect(half).toBeGreaterThan(0.47);
  expect(half).toBeLessThan(0.53);
  await page.getByTestId("plan-typical").fill("");
  await expect(page.getByRole("alert").first()).toHaveText(/not a number yet.*of the figures before/);
  await expect(chemistry).toBeVisible();
  await page.getByTestId("plan-typical").fill("160");
  await expect(chemistry).toHaveText(before);
});

test("on a phone the answer stays in sight while its figures are typed", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 664 });
  await page.goto(`${demo.url}/size`);
  const first = page.getByTestId("plan-typical");
  await expect(first).toBeInViewport({ ratio: 1 });
  for (const field of ["plan-typical", "plan-flow", "plan-limit"]) {
    await page.getByTestId(field).click();
    await expect(page.getByTestId("life-typical")).toBeInViewport({ ratio: 1 });
    await expect(page.getByTestId(field)).toBeInViewport({ ratio: 1 });
  }
  const place = async () => (await first.boundingBox())!.y;
  await first.scrollIntoViewIfNeeded();
  const before = await place();
  await first.fill("");
  await expect(page.getByTestId("size-answer")).toContainText("of the figures before");
  await expect(page.getByTestId("life-typical")).toBeVisible();
  await first.fill("1234");
  expect(await place()).toBe(before);
});

test("numbers of sizing are typed on an own pad that hides neither the answer nor the figure", async ({
  page,
  demo,
}) => {
  for (const height of [664, 844]) {
    await page.setViewportSize({ width: 390, height });
    await page.goto(`${demo.url}/size`);
    const pad = page.getByTestId("field-pad");
    const feed = page.getByTestId("plan-typical");
    await expect(pad).toBeHidden();
    await feed.click();
    // What stood there is chosen, so that the first key replaces it.
    await expect.poll(() => feed.evaluate((input: HTMLInputElement) => input.selectionEnd)).toBeGreaterThan(0);
    for (const key of ["2", "4", "0"]) await pad.getByRole("button", { name: key, exact: true }).click();
    await expect(feed).toHaveValue("240");
    await expect(feed).toBeFocused();
    await expect(page.getByTestId("feed-range")).toHaveText("from 195 to 315");
    for (const part of [pad, feed, page.getByTestId("life-typical"), pad.getByRole("button", { name: "Next" })])
      await expect(part).toBeInViewport({ ratio: 1 });
    await pad.getByRole("button", { name: "Next" }).click();
    await expect(page.getByTestId("plan-resin")).toBeFocused();
    await pad.getByRole("button", { name: "Done" }).click();
    await expect(pad).toBeHidden();
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByTestId("plan-typical").click();
  await expect(page.getByTestId("field-pad")).toBeHidden();
});

test("in each place of sizing the answer stays in sight over what is typed, and follows it at once", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 390, height: 664 });
  for (const [path, opener] of [
    ["/size/vessel", undefined],
    ["/size/membrane", "pays-work"],
    ["/size/habits", "habits-work"],
  ] as const) {
    await page.goto(`${demo.url}${path}`);
    const value = page.getByTestId("bar-value");
    await expect(value).toHaveText(/^€[\d,]+$/);
    if (opener) await page.getByTestId(opener).click();
    const field = page.getByTestId("item-perWeek").first();
    await field.click();
    await expect(value).toBeInViewport({ ratio: 1 });
    await expect(field).toBeInViewport({ ratio: 1 });
    const before = await value.innerText();
    await field.fill("90");
    await expect(value).not.toHaveText(before);
    await field.fill("");
    await expect(page.getByTestId("size-bar")).toContainText("of the figures before");
    await expect(value).toHaveText(/^€[\d,]+$/);
    for (const part of [value, field]) await expect(part).toBeInViewport({ ratio: 1 });
    await field.fill("20");
    await expect(page.getByTestId("size-bar")).not.toContainText("of the figures before");
  }
});

test("changing the feed's range moves the frosted band by the computed depths", async ({ page, demo }) => {
  await page.goto(`${demo.url}/size`);
  const input = (feed: number): LifeInput => ({
    water: { reading: { value: feed, scale: "nacl" }, temperature: 15 },
    capacity: { grade: "virgin" },
    limit: { value: 10, scale: "nacl" },
    bed: { volume: 11.9, diameter: 180, flow: 3.2, temperature: 15, spread: 0.05, health: 1 },
  });
  const band = page.getByTestId("plan-column").getByTestId("frosted-band");
  const depths = async () => {
    const [y, height, top, bed] = await band.evaluate((rect) =>
      ["y", "height", "data-bed-top", "data-bed-height"].map((name) => Number(rect.getAttribute(name))),
    );
    return [(y! - top!) / bed!, (y! + height! - top!) / bed!] as const;
  };
  const expected = (low: number, typical: number, high: number) => {
    const litres = 0.5 * unwrap(life(input(typical))).litres;
    return [low, high].map((feed) => {
      const working = unwrap(workOutLife(input(feed)));
      return frontDepth(litres / working.litresPerThroughput, working.bed.transferUnits);
    });
  };
  await page.getByTestId("feed-range").click();
  for (const [low, typical, high] of [
    [130, 160, 210],
    [100, 160, 210],
    [100, 160, 300],
    [150, 160, 170],
  ] as const) {
    await page.getByTestId("plan-low").fill(String(low));
    await page.getByTestId("plan-typical").fill(String(typical));
    await page.getByTestId("plan-high").fill(String(high));
    const [early, late] = expected(low, typical, high);
    await expect.poll(async () => (await depths())[0]).toBeCloseTo(early!, 4);
    expect((await depths())[1]).toBeCloseTo(late!, 4);
  }
});
