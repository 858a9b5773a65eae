import { expect, numbersIn, test, RunningServer } from "./support/app";
import { openAt } from "./support/places";
import { expectWorkingTrue, openAll, openEach } from "./support/workings";

const first = (text: string) => numbersIn(text)[0]!;
const settled = '[aria-busy="false"]';

test("from the work to a ranked choice, its cost adding up part by part, each part explaining itself", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size`);
  await page.getByTestId("open-options").click();
  await page.getByRole("radio", { name: "Bay tap" }).click();
  await expect(page.getByTestId("options").and(page.locator(settled))).toBeVisible();
  await expect(page.getByTestId("chemistry-unknown")).toHaveCount(0);
  const best = page.getByTestId("option").first();
  await best.getByRole("button", { name: "Every figure", exact: true }).click();
  const parts = numbersIn((await best.getByTestId("cost-parts").innerText()).split("Prices:")[0]!);
  const total = parts.pop()!;
  expect(Math.abs(parts.reduce((sum, part) => sum + part, 0) - total)).toBeLessThanOrEqual(parts.length);
  expect(first(await best.getByTestId("option-cost").innerText())).toBe(total);
  await expect(best.getByTestId("option-lives")).toContainText("carbon dioxide and silica lie between");
  const details = best.getByTestId("option-details");
  await details.getByTestId("option-ends").click();
  const ends = numbersIn(await best.getByTestId("option-range").innerText());
  for (const [called, end] of [
    ["least", ends[0]],
    ["most", ends[1]],
  ] as const)
    await expect(details).toContainText(`A year, ${called}€${end!.toLocaleString("en-US")}`);
  await openEach(details, /: why$/);
  await openAll(details);
  const workings = await details.getByTestId("working").all();
  expect(workings.length).toBeGreaterThan(20);
  for (const working of workings) await expectWorkingTrue(working);
});

test("more work costs more; what matters most decides who stands first; what can't do it says why", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/vessel`);
  const cost = async () => first(await page.getByTestId("option-cost").first().innerText());
  await expect(page.getByTestId("option-cost").first()).toBeVisible();
  const before = await cost();
  await page.getByTestId("item-perWeek").first().fill("45");
  await expect.poll(cost).toBeGreaterThan(1.3 * before);
  await page.getByRole("radio", { name: "Weight" }).click();
  await expect(page.getByTestId("option").first()).toContainText("is the lightest to lift");
  await page.getByRole("radio", { name: "Few refills" }).click();
  await expect(page.getByTestId("option").first()).toContainText("needs the fewest refills");
  await expect(page.getByTestId("trade-off")).toBeVisible();
  await expect(page.getByTestId("limit-schools")).toContainText(/Change at 10.*Change at 20/s);
  await expect(page.getByTestId("schools")).toContainText(/Trade constant.*Resin chemistry/s);
  await page.getByTestId("show-impossible").click();
  await expect(page.getByTestId("impossible").first()).toContainText(
    /days in the busiest month|At this flow|hours in a week/,
  );
});

test("a membrane that wastes more costs more, and a figure of it that can't be is said", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/vessel`);
  const best = page.getByTestId("option").first();
  await expect(best).toContainText("after RO");
  const cost = async () => first(await page.getByTestId("option-cost").first().innerText());
  const before = await cost();
  await page.getByTestId("setup-before").click();
  await page.getByTestId("work-recovery").fill("20");
  await expect.poll(cost).toBeGreaterThan(1.15 * before);
  await page.getByTestId("work-recovery").fill("99");
  await expect(page.getByText(/^The recovery must be above 0/)).toBeVisible();
});

test("up to three stand side by side, and the best of each line is marked", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await expect(page.getByTestId("pin").nth(3)).toBeVisible();
  for (const i of [0, 1, 2, 3]) await page.getByTestId("pin").nth(i).click();
  const table = page.getByRole("table", { name: "Pinned options" });
  await expect(table.getByRole("button", { name: /^Unpin/ })).toHaveCount(3);
  const year = await table.getByRole("row").filter({ hasText: "A year" }).first().getByRole("cell").allInnerTexts();
  const marked = year.findIndex((text) => text.includes("◂"));
  expect(first(year[marked]!)).toBe(Math.min(...year.map(first)));
  await table
    .getByRole("button", { name: /^Unpin/ })
    .first()
    .click();
  await expect(table.getByRole("button", { name: /^Unpin/ })).toHaveCount(2);
  await page.reload();
  await expect(table.getByRole("button", { name: /^Unpin/ })).toHaveCount(2);
});

test("a wrong figure is said and the rest stands; a budget nothing meets is said; both outlive a closed tab", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await page.getByTestId("item-litresEach").first().fill("a bucket");
  await expect(page.getByText("The water of a job is not a number yet.")).toBeVisible();
  await expect(page.getByTestId("item-perWeek").first()).toHaveValue("20");
  await page.getByTestId("item-litresEach").first().fill("50");
  await page.getByTestId("bounds").click();
  await page.getByTestId("work-budget").fill("5");
  await expect(page.getByTestId("no-option")).toContainText("more a year than your budget");
  await page.reload();
  await page.getByTestId("bounds").click();
  await expect(page.getByTestId("work-budget")).toHaveValue("5");
});

test("a tap whose carbon dioxide nobody knows is said to be so", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/vessel`);
  await page.getByRole("radio", { name: "Row tap" }).click();
  await expect(page.getByTestId("chemistry-unknown")).toContainText("no membrane holds it back");
  await openAt(page, `${demo.url}/size/membrane`);
  await expect(page.getByTestId("pays-co2")).toContainText("not known");
});

test("where RO pays is drawn, moves with the work, and says what carbon dioxide, a pump and a barrel do", async ({
  page,
  demo,
}) => {
  await openAt(page, `${demo.url}/size/membrane`);
  await page.getByTestId("pays-work").click();
  await page.getByRole("radio", { name: "Bay tap" }).click();
  const answer = page.getByTestId("pays-from");
  const from = async () => numbersIn((await answer.innerText()).split("feed of")[1] ?? "0")[0]!;
  await expect(page.getByTestId("pays").and(page.locator(settled))).toBeVisible();
  await expect(page.getByTestId("pays-co2")).toContainText("RO lets it through");
  await expect(page.getByTestId("pays-co2")).toContainText("To what a meter shows, from");
  await expect(page.getByTestId("pays-chart")).toHaveAttribute("aria-label", /they meet at [\d.]+ .*your tap has 168/);
  await expect(page.getByTestId("pays-here")).toContainText(/saves €[\d,]+ a year/);
  const busy = await from();
  await page.getByTestId("item-perWeek").first().fill("2");
  await page.getByTestId("item-perWeek").nth(1).fill("0");
  await expect.poll(from).toBeGreaterThan(1.5 * busy);
  for (const button of await answer.getByRole("button").all()) await button.click();
  await openAll(answer);
  for (const working of await answer.getByTestId("working").all()) await expectWorkingTrue(working);
  const pump = page.getByTestId("worth-booster");
  await pump.getByRole("button", { name: "Part by part" }).click();
  const parts = (await pump.innerText())
    .match(/[+−]€[\d,.]+/g)!
    .map((text) => first(text) * (text[0] === "+" ? 1 : -1));
  const total = parts.pop()!;
  expect(Math.abs(parts.reduce((sum, part) => sum + part, 0) - total)).toBeLessThanOrEqual(parts.length);
  await expect(page.getByTestId("worth-aeration").first()).toContainText("A degassing barrel");
  const second = page.getByTestId("worth-second-membrane");
  await second.getByRole("button").first().click();
  await expectWorkingTrue(second.getByTestId("working").first());
  await second.getByRole("button", { name: "Part by part" }).click();
  await expect(second).toContainText(/Waste water\s*−€/);
  await page.getByTestId("item-perWeek").first().fill("20");
  await expect(second).toContainText("It saves");
  await page.getByTestId("setup-before").click();
  await page.getByRole("radio", { name: "A second on its waste" }).click();
  await expect(second).toHaveCount(0);
});

test("claims come to one footing while they are typed, and what is too good is said", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/claims`);
  await page.getByRole("radio", { name: "Bay tap" }).click();
  const answers = page.getByTestId("claim-answer");
  // Two statements, beside the same resin self-built and second-hand.
  await expect(answers).toHaveCount(4);
  await expect(answers.filter({ hasText: "Self-built" })).toContainText("over 5 years of your work");
  await expect(answers.filter({ hasText: "Second label" })).toContainText("Too high: 0.56 eq/L");
  await page.getByTestId("add-claim").click();
  const claim = page.getByTestId("claim").nth(2);
  await claim.getByTestId("claim-volume").fill("3360");
  await claim.getByTestId("claim-resin").fill("10");
  const mine = answers.filter({ hasText: "Statement 3" });
  await expect(mine).toContainText("says nothing about your tap");
  await expect(mine).toContainText("True at most below 83.3 ppm NaCl; your tap has 168");
  await claim.getByRole("radio", { name: "US gallons" }).click();
  await expect(mine).toContainText("True at most below");
  await claim.getByRole("radio", { name: "Litres" }).click();
  await claim.getByTestId("claim-ppm").fill("100");
  await claim.getByTestId("claim-price").fill("20");
  await expect(answers.first()).toContainText("2,000 L");
  await expect(answers.first()).toContainText("€12 for 1000 L, the first filling");
  for (const button of await answers.first().getByRole("button").all()) await button.click();
  for (const working of await answers.first().getByTestId("working").all()) await expectWorkingTrue(working);
});

test("habits stand by money, each with its working, and follow what is typed", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/habits`);
  const habits = page.getByTestId("habit");
  await expect(habits.first()).toContainText("Put RO before the resin");
  const moneyOf = async (name: string) =>
    first(await habits.filter({ hasText: name }).getByTestId("habit-money").innerText());
  const before = await moneyOf("Shut off at every pause");
  await page.getByTestId("practice-pause").fill("40");
  await expect.poll(() => moneyOf("Shut off at every pause")).toBeGreaterThan(1.9 * before);
  const shutOff = habits.filter({ hasText: "Shut off at every pause" });
  for (const button of await shutOff.getByRole("button").all()) await button.click();
  await openAll(shutOff);
  for (const working of await shutOff.getByTestId("working").all()) await expectWorkingTrue(working);
  await page.getByRole("radio", { name: "RO", exact: true }).click();
  await expect(habits.filter({ hasText: "Divert the start" })).toContainText("to drain for");
  await page.getByTestId("practice-pause").fill("much");
  await expect(page.getByRole("alert")).toContainText("A figure is missing");
});

test("a plan in use is held against its log", async ({ page, demo }) => {
  await openAt(page, `${demo.url}/size/plans`);
  await page.getByRole("link", { name: "Van, as it was planned" }).click();
  const outcome = page.getByTestId("plan-outcome");
  await expect(outcome).toContainText("What Van really did");
  for (const what of ["week", "charge", "refills", "cost"])
    await expect(page.getByTestId(`outcome-${what}`)).toContainText(/(as|than) planned/);
  await expect(page.getByTestId("build-rig")).toHaveCount(0);
});

test("an empty crew is told what to do first in every place of sizing", async ({ page }) => {
  const empty = await RunningServer.start({ flags: ["--empty"] });
  try {
    for (const [path, words] of [
      ["/size/vessel", "No tap yet"],
      ["/size/membrane", "No tap yet"],
      ["/size/claims", "No tap yet"],
      ["/size/habits", "No tap yet"],
      ["/size/plans", "No plan yet"],
      ["/size/prices", "planning assumptions"],
    ] as const) {
      await page.goto(empty.url + path);
      await expect(page.getByText(words).first()).toBeVisible();
    }
    await page.goto(`${empty.url}/size/plans`);
    await page.getByText("Find the right vessel").click();
    await page.getByText("Add the first tap").click();
    await expect(page.getByTestId("field-typical")).toBeVisible();
  } finally {
    await empty.remove();
  }
});
