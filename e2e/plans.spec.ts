import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { allSent, expect, fill, numbersIn, press, RunningServer, test } from "./support/app";
import { openAt } from "./support/places";

test.use({ networkMayFail: true });

let server: RunningServer;
test.beforeAll(async () => {
  server = await RunningServer.start({ flags: ["--empty"] });
});
test.afterAll(() => server.remove());

const items = async (kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}`)).body as { items: Record<string, unknown>[] }).items;

/** From an empty place of sizing to a tap, and back. */
async function addTap(page: Page, name: string, [low, typical, high]: readonly string[], chemistry = true) {
  await openAt(page, `${server.url}/size/vessel`);
  const firstTap = page.getByTestId("first-tap");
  await expect(firstTap.or(page.getByTestId("work-item").first())).toBeVisible();
  if (await firstTap.isVisible()) await firstTap.click();
  else await openAt(page, `${server.url}/setup/tap?then=/size/vessel`);
  const newSite = page.getByRole("radio", { name: "A new site" });
  await expect(page.getByTestId("field-name")).toBeVisible();
  if ((await newSite.count()) > 0) await newSite.first().click();
  await fill(page, "siteName", `${name} place`);
  await fill(page, "name", name);
  await fill(page, "low", low!);
  await fill(page, "typical", typical!);
  await fill(page, "high", high!);
  if (chemistry) {
    await press(page, "KH, pH, silica, temperature");
    await fill(page, "ph", "7.4");
    await fill(page, "alkalinity", "110");
    await fill(page, "silica", "6");
  }
  await page.getByTestId("save").click();
  await expect(page).toHaveURL(/size\/vessel/);
  await page.getByRole("radio", { name }).click();
}

/** Text and number of pages of a PDF, read by a reader that knows nothing of how it was made. */
async function readPdf(path: string): Promise<{ readonly pages: number; readonly text: string }> {
  const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), useSystemFonts: true }).promise;
  const content = await (await document.getPage(1)).getTextContent();
  return {
    pages: document.numPages,
    text: content.items
      .map((item) => ("str" in item ? item.str : ""))
      .join(" ")
      .replace(/\s+/g, " "),
  };
}

async function saved(page: Page, button: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByTestId(button).click()]);
  return file.path();
}

test("a window round: from nothing to a plan on paper, and the rig on the rack", async ({ page }) => {
  await addTap(page, "Lane tap", ["150", "165", "190"]);
  await page.getByTestId("item-perWeek").first().fill("24");
  await press(page, "Add water-repellent glass");
  await page.getByRole("radio", { name: "Busy summer" }).click();
  await page.getByTestId("bucket-test").click();
  await page.getByTestId("work-bucket").fill("8");
  await page.getByTestId("work-bucketSeconds").fill("120");
  await page.getByTestId("use-bucket").click();
  await expect(page.getByTestId("work-peakFlow")).toHaveValue("4");
  await expect(page.getByTestId("flow-judged")).toContainText("The flow suits it");
  await page.getByRole("radio", { name: "A hand past them" }).click();
  await expect(page.getByTestId("flow-judged")).toContainText("More than it can use: at 3.4 L/min");
  await page.getByTestId("work-peakFlow").fill("3.4");
  await page.getByRole("radio", { name: "Weight" }).click();
  await expect(page.getByTestId("option").first()).toContainText("is the lightest to lift");
  await page.getByRole("radio", { name: "Money" }).click();
  const best = page.getByTestId("option").first();
  await expect(best).toContainText("costs least a year");
  const cost = numbersIn(await best.getByTestId("option-cost").innerText())[0]!;
  await best.getByTestId("keep-plan").click();

  await expect(page.getByTestId("plan-expected")).toContainText(cost.toLocaleString("en-US"));
  await page.getByTestId("rename").click();
  await page.getByTestId("plan-name").fill("Round of Łąki lanes");
  await page.getByTestId("keep-name").click();
  await expect(page.getByRole("heading", { name: "Round of Łąki lanes" })).toBeVisible();
  const { pages, text } = await readPdf(await saved(page, "plan-pdf"));
  expect(pages).toBe(1);
  expect(text).toContain("Round of Łąki lanes");
  expect(text).toContain(`€${cost.toLocaleString("en-US")}`);
  expect(text).toContain("24 maintenance cleans of 60 L");
  expect(text).toMatch(/150 to 190 ppm NaCl.*safety data sheet/);
  const csv = readFileSync(await saved(page, "plan-csv"), "utf8");
  expect(csv).toMatch(/^what,value,unit\nplan,Round of Łąki lanes,/);
  const json = JSON.parse(readFileSync(await saved(page, "plan-json"), "utf8")) as { work: object };
  const { status, body } = await server.request("POST", "/api/v1/compute/size", json.work);
  expect(status).toBe(200);
  expect(Math.round((body as { options: { cost: { total: number } }[] }).options[0]!.cost.total)).toBe(cost);

  await page.getByTestId("build-rig").click();
  await expect(page.getByTestId("verdict-title")).toHaveText("Round of Łąki lanes: fine");
  await allSent(page);
  const [plan] = await items("plans");
  const [rig] = await items("rigs");
  expect(plan!["rigId"]).toBe(rig!["id"]);
  expect(await items("charges")).toHaveLength((await items("vessels")).length);
  await openAt(page, `${server.url}/size/plans`);
  await page.getByRole("link", { name: "Round of Łąki lanes" }).click();
  await expect(page.getByTestId("plan-outcome")).toContainText("less than a week");
  await expect(page.getByTestId("plan-versions")).toContainText("in use");
});

test("a detailing bay: own prices, a claim weighed, a plan changed into its next version", async ({ page }) => {
  await openAt(page, `${server.url}/size/prices`);
  await expect(page.getByTestId("prices-from")).toContainText("planning assumptions");
  await page.getByTestId("field-currency").selectOption("GBP");
  await fill(page, "wage", "a lot");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("form-trouble")).toContainText("An hour of work is not a number yet");
  await fill(page, "wage", "24");
  await fill(page, "resin_virgin", "7.2");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("prices-from")).toContainText("Your prices of");

  await addTap(page, "Bay hose", ["200", "215", "240"]);
  await page.getByRole("radio", { name: "Paint" }).click();
  await expect(page.getByTestId("option-cost").first()).toContainText("£");
  await page.getByTestId("item-perWeek").first().fill("18");
  await expect(page.getByTestId("option").first()).toContainText("Refill every");
  await openAt(page, `${server.url}/size/claims`);
  await page.getByRole("radio", { name: "Bay hose" }).click();
  await expect(page.getByTestId("claim-answer").first()).toContainText("at your tap");
  await openAt(page, `${server.url}/size/vessel`);
  await page.getByTestId("keep-plan").first().click();
  await expect(page.getByTestId("plan")).toContainText("version 1");
  await page.getByTestId("change-plan").click();
  await expect(page.getByTestId("changing")).toContainText("becomes version 2");
  await page.getByTestId("item-perWeek").first().fill("30");
  await expect(page.getByTestId("demand")).toContainText(/9\d\d to 1,4\d\d L/);
  await expect(page.getByTestId("options")).toHaveAttribute("aria-busy", "false");
  await page.getByTestId("keep-plan").first().click();
  await expect(page.getByTestId("plan")).toContainText("version 2");
  await allSent(page);
  await page.reload();
  await expect(page.getByTestId("plan-versions")).toContainText(/1, .*\n?.*2, /s);
  const name = await page.getByTestId("plan").getByRole("heading", { level: 2 }).first().innerText();
  await page.getByTestId("put-away").click();
  await expect(page.getByRole("link", { name })).toHaveCount(0);
  await page.getByTestId("undo").click();
  await expect(page.getByRole("link", { name })).toHaveCount(1);
});

test("an aquarium room: RO found worth it, the plan built, and all of it undone with one tap", async ({ page }) => {
  await addTap(page, "Fish tap", ["190", "210", "240"]);
  await page.getByRole("radio", { name: "Aquarium" }).click();
  await expect(page.getByTestId("work-limit")).toHaveValue("1");
  await page.getByTestId("item-volume").first().fill("900");
  await openAt(page, `${server.url}/size/membrane`);
  await expect(page.getByTestId("pays-from")).toContainText(/begins to pay|doesn’t begin/);
  await openAt(page, `${server.url}/size/vessel`);
  await expect(page.getByTestId("limit-schools")).toContainText(/Act at 1.*Act at 2.*nine tenths/s);
  const behindRo = page.getByTestId("option").filter({ hasText: "after RO" }).first();
  await expect(behindRo).toBeVisible();
  await behindRo.getByTestId("keep-plan").click();
  const before = { rigs: (await items("rigs")).length, vessels: (await items("vessels")).length };
  await page.getByTestId("build-rig").click();
  await expect(page.getByTestId("toast")).toContainText("hangs on the rack");
  await allSent(page);
  const rigs = await items("rigs");
  expect(rigs).toHaveLength(before.rigs + 1);
  const kinds = (rigs[rigs.length - 1]!["stages"] as { kind: string }[]).map(({ kind }) => kind);
  expect(kinds).toEqual(expect.arrayContaining(["sediment", "carbon", "membrane", "resin"]));
  await page.getByTestId("undo").click();
  await expect.poll(async () => (await items("vessels")).length).toBe(before.vessels);
  expect(await items("rigs")).toHaveLength(before.rigs);
});

test("the page for a customer stands in the house's face, with the vessel drawn on it and no month said twice", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/plans`);
  await page.getByRole("link", { name: "Van, as it was planned" }).click();
  const path = await saved(page, "plan-pdf");
  const bytes = readFileSync(path).toString("latin1");
  expect(bytes).toMatch(/\/BaseFont \/\w+\+AtkinsonHyperlegibleNext/);
  expect(bytes).not.toMatch(/Roboto/);
  const { text, pages } = await readPdf(path);
  expect(pages).toBe(1);
  expect(text).toContain("Van, as it was planned");
  const months = [...text.matchAll(/Refill every[^\d]*([\d,]+ to [\d,]+ \w+)/g)].map(([, range]) => range);
  expect(new Set(months).size).toBe(months.length);
  expect(months.length).toBeGreaterThan(0);
});
