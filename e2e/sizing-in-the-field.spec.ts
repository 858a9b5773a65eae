import { allSent, expect, numbersIn, test } from "./support/app";
import { openAt } from "./support/places";
import { expectWorkingTrue, openAll } from "./support/workings";

test.use({ networkMayFail: true });

const first = (text: string) => numbersIn(text)[0]!;

test("the log itself can be the demand, and it is the log's own mean", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await page.getByRole("button", { name: /^Take what Van logged in \d+ weeks$/ }).click();
  await expect(page.getByTestId("work-item")).toHaveCount(1);
  const typed = Number(await page.getByTestId("item-litresPerWeek").inputValue());
  expect(typed).toBeGreaterThan(700);
  const range = async () => numbersIn(await page.getByTestId("demand").innerText());
  // A metered log is surer than a guess.
  await expect.poll(async () => ((await range())[1]! - (await range())[0]!) / typed).toBeLessThan(0.12);
  const [low, high] = await range();
  expect(low!).toBeLessThan(typed);
  expect(high!).toBeGreaterThan(typed);
  await page.getByRole("radio", { name: "Aquarium" }).click();
  await expect(page.getByRole("button", { name: /^Take what Quarantine logged/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Take what Van logged/ })).toHaveCount(0);
});

test("months of one's own move the busiest month and the year", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/vessel`);
  const days = async () => numbersIn(await page.getByTestId("option-days").first().innerText())[0]!;
  const cost = async () => first(await page.getByTestId("option-cost").first().innerText());
  await expect(page.getByTestId("option").first()).toBeVisible();
  await page.getByRole("radio", { name: "Few refills" }).click();
  await expect(page.getByTestId("option").first()).toContainText("needs the fewest refills");
  const before = { days: await days(), cost: await cost() };
  await page.getByRole("radio", { name: "Month by month" }).click();
  await page.getByTestId("month-6").fill("300");
  await expect.poll(cost).toBeGreaterThan(1.05 * before.cost);
  await page.getByTestId("month-0").fill("often");
  await expect(page.getByText("A month’s share is not a number yet.")).toBeVisible();
  await page.getByTestId("month-0").fill("0");
  await expect(page.getByTestId("options")).toHaveAttribute("aria-busy", "false");
  await expect(page.getByTestId("demand")).toBeVisible();
});

test("a tank filled ahead is asked for: the resin sees its filling, and no second tank is bought", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/vessel`);
  const cost = async () => first(await page.getByTestId("option-cost").first().innerText());
  await expect(page.getByTestId("option").first()).toContainText("after RO");
  await expect(page.getByTestId("options")).toHaveAttribute("aria-busy", "false");
  const straight = await cost();
  await page.getByRole("radio", { name: "From a tank filled ahead" }).click();
  await expect(page.getByRole("note").filter({ hasText: "float shut-off" })).toBeVisible();
  await expect.poll(cost).toBeLessThan(straight);
  await page.getByTestId("work-fillFlow").fill("overnight");
  await expect(page.getByText("The filling flow is not a number yet.")).toBeVisible();
  await page.getByTestId("work-fillFlow").fill("0.9");
  await expect(page.getByTestId("options")).toHaveAttribute("aria-busy", "false");
  await page.getByTestId("option").first().getByRole("button", { name: "Every figure", exact: true }).click();
  await page
    .getByTestId("option-details")
    .getByRole("button", { name: /^To buy/ })
    .click();
  await expectWorkingTrue(page.getByTestId("working").last());
});

test("gallons, pounds and psi in every place of sizing, and every opened working still true", async ({
  page,
  demo,
}) => {
  await page.addInitScript(() => localStorage.setItem("winter-bead-settings", JSON.stringify({ units: "us" })));
  await openAt(page, `${demo.url}/size/vessel`);
  await page.getByRole("radio", { name: "Bay tap" }).click();
  await expect(page.getByTestId("options")).toHaveAttribute("aria-busy", "false");
  await expect(page.getByTestId("demand")).toContainText("US gal a week");
  await page.getByTestId("demand").click();
  const best = page.getByTestId("option").first();
  await best.getByRole("button", { name: "Every figure", exact: true }).click();
  const details = best.getByTestId("option-details");
  await expect(details).toContainText("For 1000 US gal");
  await expect(details).toContainText(" lb");
  for (const name of [/^Water of one refill/, /^Cost of 1000 litres/, /^Weight, wet/, /^Pressure loss/])
    await details.getByRole("button", { name }).click();
  for (const working of await details.getByTestId("working").all()) await expectWorkingTrue(working);
  const litres = details.getByTestId("working").first();
  await expect(litres).toContainText("US gal");

  await openAt(page, `${demo.url}/size/claims`);
  await expect(page.getByTestId("claim-answer").first()).toContainText("US gal at your tap");
  await openAt(page, `${demo.url}/size/prices`);
  await expect(page.getByText("Virgin, EUR/ft³")).toBeVisible();
  const perCubicFoot = Number(await page.getByTestId("field-resin_virgin").inputValue());
  expect(perCubicFoot / 28.316846592).toBeCloseTo(8.4, 2);
  await openAt(page, `${demo.url}/size/plans`);
  await page.getByRole("link", { name: "Van, as it was planned" }).click();
  await expect(page.getByTestId("outcome-week")).toContainText("US gal");
  await expect(page.getByTestId("plan-work")).toContainText("US gal (guessed)");
});

test("what was typed for a tap stays when another is looked at, and workings of the schools are true", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await page.getByRole("radio", { name: "Paint" }).click();
  await page.getByTestId("item-minutes").fill("6");
  await page.getByRole("radio", { name: "Bay tap" }).click();
  await expect(page.getByTestId("item-minutes")).toHaveValue("6");
  const schools = page.getByTestId("schools");
  await expect(schools).toBeVisible();
  for (const button of await schools.getByRole("button", { name: /: why$/ }).all()) await button.click();
  await openAll(schools);
  const workings = await schools.getByTestId("working").all();
  expect(workings.length).toBeGreaterThan(4);
  for (const working of workings) await expectWorkingTrue(working);
  for (const button of await page.getByTestId("without").getByRole("button").all()) await button.click();
  for (const working of await page.getByTestId("without").getByTestId("working").all())
    await expectWorkingTrue(working);
});

test("without a signal a plan is kept on the device, named, and sent when it comes back", async ({
  page,
  context,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await expect(page.getByTestId("keep-plan").first()).toBeVisible();
  await openAt(page, `${demo.url}/size/plans`);
  await expect(page.getByTestId("plan-row").first()).toBeVisible();
  await openAt(page, `${demo.url}/size/vessel`);
  await expect(page.getByTestId("keep-plan").first()).toBeVisible();
  await page.route("**/api/**", (route) => route.abort());
  await page.getByTestId("keep-plan").first().click();
  await expect(page.getByTestId("toast")).toContainText("Kept:");
  await page.getByTestId("rename").click();
  await page.getByTestId("plan-name").fill("Kept in the lane");
  await page.getByTestId("keep-name").click();
  await expect(page.getByRole("heading", { name: "Kept in the lane" })).toBeVisible();
  await expect(page.getByTestId("sent-state")).toContainText(/wait: no signal|to send/);
  const names = async () =>
    ((await demo.request("GET", "/api/v1/plans")).body as { items: { name: string }[] }).items.map(({ name }) => name);
  expect(await names()).not.toContain("Kept in the lane");
  await page.unroute("**/api/**");
  await context.setOffline(false);
  await allSent(page);
  expect(await names()).toContain("Kept in the lane");
  await page.getByTestId("put-away").click();
  await expect.poll(names).not.toContain("Kept in the lane");
});

test("the list of plans, the plan and every way on can be reached by the keyboard", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openAt(page, `${demo.url}/size`);
  await page.getByRole("link", { name: "Plans" }).focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/size\/plans$/);
  await page.getByRole("link", { name: "Van, as it was planned" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("plan")).toContainText("What Van really did");
  const week = page.getByTestId("outcome-week");
  await week.getByRole("button").focus();
  await page.keyboard.press("Enter");
  await expectWorkingTrue(week.getByTestId("working"));
  for (const what of ["charge", "refills", "cost"]) {
    const line = page.getByTestId(`outcome-${what}`);
    await line.getByRole("button").first().click();
    await openAll(line);
    for (const working of await line.getByTestId("working").all()) await expectWorkingTrue(working);
  }
});
