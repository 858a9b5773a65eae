import type { Page } from "@playwright/test";
import { allSent, choose, expect, numbersIn, press, test, type RunningServer } from "./support/app";
import { openAt } from "./support/places";
import { expectWorkingTrue, openAll } from "./support/workings";

test.use({ networkMayFail: true });

interface Named {
  readonly id: string;
  readonly name: string;
}
async function tapNamed(demo: RunningServer, name: string): Promise<string> {
  const { items } = (await demo.request("GET", "/api/v1/taps")).body as { items: Named[] };
  return items.find((tap) => tap.name === name)!.id;
}
const setMode = async (demo: RunningServer, mode: string) =>
  fetch(`${await demo.supplier()}/mode`, { method: "PUT", body: JSON.stringify({ mode }) });
const field = (page: Page, name: string) => page.getByTestId(`report-${name}`);

test("a reading that does not fit is questioned, kept when it is right, and is there after a reload", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/water`);
  await page.getByRole("link", { name: /^Row tap/ }).click();
  const days = async () => numbersIn(await page.getByTestId("more-readings").innerText())[0]!;
  const before = await days();
  await page.getByTestId("add-reading").click();
  await page.getByTestId("feed-value").fill("150");
  await expect(page.getByTestId("doubt")).toHaveCount(0);
  await page.getByTestId("feed-value").fill("215");
  await expect(page.getByTestId("doubt")).toContainText("If the meter stood on 442");
  await expect(page.getByTestId("doubt")).toContainText("Blending tap");
  await page.getByTestId("feed-note").fill("After the works in the lane");
  await page.reload();
  await page.getByTestId("add-reading").click();
  await expect(page.getByTestId("feed-value")).toHaveValue("215");
  await page.getByTestId("keep-feed-test").click();
  await expect(page.getByTestId("toast")).toContainText("Kept: 215 ppm NaCl at Row tap");
  await allSent(page);
  await page.reload();
  await expect.poll(days).toBeGreaterThanOrEqual(before);
  const { items } = (await demo.request("GET", "/api/v1/feed-tests?limit=1000")).body as { items: { note?: string }[] };
  expect(items.filter((each) => each.note === "After the works in the lane")).toHaveLength(1);
});

test("every shown working of the water gives its number, and the range can be taken over and back", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/water/${await tapNamed(demo, "Bay tap")}`);
  const explained = ["explain-low", "explain-high", "explain-more", "hidden-share", "explain-co2"];
  for (const name of [...explained, "explain-balance", "explain-conductivity"])
    await page.getByTestId(name).getByRole("button").first().click();
  await page.getByTestId("aeration").getByRole("button").first().click();
  await openAll(page.getByTestId("tap-detail"));
  const workings = await page.getByTestId("working").all();
  expect(workings.length).toBeGreaterThanOrEqual(8);
  for (const working of workings) await expectWorkingTrue(working);
  await expect(page.getByTestId("equivalents")).toHaveAttribute("aria-label", /CO₂ [\d.]+ \(not seen by a meter\)/);
  await expect(page.getByTestId("balance")).toContainText("It balances");
  await expect(page.getByTestId("conductivity-check")).toContainText("they agree");
  await page.getByTestId("take-over").click();
  await expect(page.getByText("Planning uses this range.")).toBeVisible();
  await page.getByTestId("undo").click();
  await expect(page.getByTestId("take-over")).toBeVisible();
});

test("the supplier's service down, slow or lying is said clearly, and what was typed stands", async ({
  page,
  demo,
}) => {
  await setMode(demo, "outage");
  await openAt(page, `${demo.url}/water/report?tap=${await tapNamed(demo, "Row tap")}`);
  await field(page, "ca").fill("19");
  await field(page, "silica").fill("3.3");
  await choose(page, "Fetch it");
  await expect(page.getByTestId("supplier-trouble")).toContainText("out of order. Type the report by hand");
  await expect(field(page, "ca")).toHaveValue("19");

  await setMode(demo, "steady");
  await press(page, "Ask again");
  await choose(page, "Harbour zone, reservoir water");

  await setMode(demo, "wrong-units");
  await page.getByTestId("report-date").fill("2026-08-15");
  await page.getByTestId("fetch-report").click();
  await expect(page.getByTestId("left-out")).toContainText("cannot be right: is the unit wrong by a thousand?");
  await expect(page.getByTestId("left-out")).toContainText("no unit for it");
  await expect(field(page, "ca")).toHaveValue("19");
  await expect(field(page, "na")).toHaveValue("");
  await expect(field(page, "mg")).not.toHaveValue("");

  await setMode(demo, "garbled");
  await page.getByTestId("fetch-report").click();
  await expect(page.getByTestId("supplier-trouble")).toContainText("no report");
  await expect(field(page, "silica")).not.toHaveValue("");

  await setMode(demo, "slow");
  await page.getByTestId("fetch-report").click();
  await press(page, "Give up");
  await expect(page.getByTestId("fetch-report")).toBeVisible();
  await page.getByTestId("fetch-report").click();
  await expect(page.getByTestId("supplier-trouble")).toContainText("takes too long");

  await setMode(demo, "missing-fields");
  await field(page, "ca").fill("21");
  await page.getByTestId("fetch-report").click();
  await expect(page.getByTestId("left-out")).toContainText("without a unit");
  await expect(field(page, "ca")).toHaveValue("21");

  await setMode(demo, "steady");
  await page.getByTestId("fetch-report").click();
  await expect(field(page, "ca")).not.toHaveValue("21");
  await expect(page.getByTestId("balance")).toContainText("It balances");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("toast")).toContainText(/Kept: the report of 1 Aug( 2026)? /);
  await expect(page.getByTestId("tap-detail")).toContainText(/Harbour zone, reservoir water, sampled 1 Aug( 2026)?\./);
});

test("a file is opened line by line, the template and the report are handed out", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/water/report?tap=${await tapNamed(demo, "Row tap")}`);
  await choose(page, "Open a file");
  const csv =
    "# sampled on: 2026-09-03\n# origin: Laboratory\nparameter,value,unit\nCalcium,1.1,mmol/L\nMagnesium,4,cups\nAlkalinity,52,mg/L as CaCO3\nConductivity,19.6,mS/m\nOdour,none,\n";
  await page
    .getByTestId("report-file")
    .setInputFiles({ name: "report.csv", mimeType: "text/csv", buffer: Buffer.from(csv) });
  await expect(field(page, "ca")).toHaveValue("44.0858");
  await expect(field(page, "ec25")).toHaveValue("196");
  await expect(page.getByTestId("report-date")).toHaveValue("2026-09-03");
  await expect(page.getByTestId("left-out")).toContainText("Magnesium comes in “cups”");
  await expect(page.getByTestId("left-out")).toContainText("Not needed here: Odour");
  await field(page, "mg").fill("-4");
  await page.getByTestId("save").click();
  await expect(page.getByRole("alert").filter({ hasText: "Magnesium must be" })).toBeVisible();
  await page
    .getByTestId("report-file")
    .setInputFiles({ name: "x.json", mimeType: "application/json", buffer: Buffer.from('{"values":') });
  await expect(page.getByText("cut short or damaged")).toBeVisible();
  await expect(field(page, "ca")).toHaveValue("44.0858");
  for (const id of ["template", "report-csv"]) {
    const [file] = await Promise.all([page.waitForEvent("download"), page.getByTestId(id).click()]);
    expect(file.suggestedFilename()).toBe("water-report-2026-09-03.csv");
  }
});

test("two meters are reconciled by their scales, and one is checked against a standard", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/water/meters`);
  await page.getByTestId("pair-first").fill("100");
  await page.getByTestId("pair-second").fill("141");
  await expect(page.getByTestId("pair-answer")).toContainText("They agree");
  await expect(page.getByTestId("pair-answer")).toContainText("make 1.4 times of it");
  await page.getByTestId("pair-second").fill("100");
  await expect(page.getByTestId("pair-answer")).toContainText("If the second stood on ppm NaCl, they would agree");
  await page.getByTestId("check-shown").fill("790");
  await expect(page.getByTestId("check-answer")).toContainText("12 % high: more than a good meter should be");
  await page.getByTestId("explain-check").getByRole("button").first().click();
  await expectWorkingTrue(page.getByTestId("working"));
  await expect(page.getByTestId("own-factor")).toContainText("0.559");
  await page.getByTestId("keep-check").click();
  await expect(page.getByTestId("toast")).toContainText("was checked today");
  await openAt(page, `${demo.url}/setup`);
  await page.getByRole("link", { name: /^Pocket meter, van,.*12 % high/ }).click();
  await page.getByTestId("field-name").fill("Pocket meter, old van");
  await page.getByTestId("save").click();
  await expect(page.getByRole("link", { name: /^Pocket meter, old van,.*12 % high/ })).toBeVisible();
});

test("a membrane's check shows what is worn, with reasons, and its figures explain themselves", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/water/membrane`);
  await expect(page.getByTestId("suspect").first()).toContainText("Membrane worn");
  const fill = async (figures: Readonly<Record<string, string>>) => {
    for (const [name, value] of Object.entries(figures)) await page.getByTestId(`membrane-${name}`).fill(value);
  };
  await choose(page, "Fish room inline");
  await fill({
    feed: "420",
    product: "500",
    temperature: "17",
    pressure: "300",
    productFlow: "0.08",
    wasteFlow: "0.24",
  });
  await page.getByTestId("keep-check").click();
  await expect(page.getByRole("alert").filter({ hasText: "lines are swapped" })).toBeVisible();
  await fill({ product: "14" });
  await page
    .getByRole("radiogroup", { name: /sediment cartridge is over/ })
    .getByRole("radio", { name: "Yes" })
    .click();
  await page.getByTestId("keep-check").click();
  await expect(page.getByTestId("toast")).toContainText("Kept: the membrane");
  await expect(page.getByTestId("suspect").first()).toContainText("Sediment prefilter clogged");
  await expect(page.getByTestId("suspect").first()).toContainText(
    "For: the sediment cartridge is over six months old.",
  );
  for (const name of [/^Rejection/, /^Recovery/, /^Waste/, /^Flow against/, /^Flow it should/, /^Product it should/])
    await page.getByRole("button", { name }).first().click();
  await openAll(page.getByRole("main"));
  for (const working of await page.getByTestId("working").all()) await expectWorkingTrue(working);
});

test("without a signal a reading is kept on the device and sent when it comes back", async ({
  page,
  context,
  demo,
}) => {
  await openAt(page, `${demo.url}/water/${await tapNamed(demo, "Row tap")}`);
  await expect(page.getByTestId("typical-feed")).toBeVisible();
  await context.setOffline(true);
  await page.getByTestId("add-reading").click();
  await page.getByTestId("feed-value").fill("151");
  await page.getByTestId("keep-feed-test").click();
  await expect(page.getByTestId("toast")).toContainText("Kept: 151");
  await expect(page.getByTestId("sent-state")).toContainText(/wait|send/);
  await context.setOffline(false);
  await allSent(page);
});

test("an empty crew is told what to do first in every place of the water", async ({ page }) => {
  const { RunningServer } = await import("./support/app");
  const empty = await RunningServer.start();
  try {
    for (const [path, words] of [
      ["/water", "No tap yet"],
      ["/water/report", "A report belongs to a tap"],
      ["/water/meters", "No meter yet"],
      ["/water/membrane", "No rig with a membrane yet"],
    ] as const) {
      await page.goto(empty.url + path);
      await expect(page.getByText(words)).toBeVisible();
    }
    await page.goto(`${empty.url}/lab`);
    await page.getByTestId("lab-run").click();
    await expect(page.getByTestId("silent-window")).toBeVisible();
  } finally {
    await empty.remove();
  }
});
