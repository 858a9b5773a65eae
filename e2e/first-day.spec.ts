import {
  allSent,
  answersTellNoTime,
  choose,
  expect,
  fill,
  numbersIn,
  press,
  RunningServer,
  tapDigits,
  test,
} from "./support/app";
import type { Page } from "@playwright/test";

// Without its service worker all it asks for passes by the story, which sets the time.
test.use({ networkMayFail: true, serviceWorkers: "block" });

let server: RunningServer;
test.beforeAll(async () => {
  server = await RunningServer.start({ flags: ["--empty"] });
});
test.afterAll(() => server.remove());

const DAY = 86_400_000;
const FIRST_DAY = new Date("2027-03-01T08:10:00").getTime();

async function logVisit(page: Page, output: string, total: string): Promise<string> {
  await page.getByTestId("log-a-reading").click();
  await tapDigits(page, output);
  await page.getByTestId("log-water").click();
  await tapDigits(page, total);
  const title = page.getByTestId("live-verdict");
  await expect(title).toBeVisible();
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("toast")).toContainText(`out ${output}`);
  return page.getByTestId("verdict-title").innerText();
}

async function rangeLeft(page: Page): Promise<readonly [number, number]> {
  const [low, high] = numbersIn(await page.getByTestId("left-Van").innerText());
  return [low!, high!];
}

test("a first week by hand: from an empty rack to the day to change, and all of it there after a restart", async ({
  page,
}) => {
  await answersTellNoTime(page);
  await page.clock.setFixedTime(FIRST_DAY);
  await page.goto(server.url);
  await page.getByTestId("go-setup").click();

  await press(page, "Add a tap");
  await fill(page, "siteName", "Ropewalk yard");
  await fill(page, "name", "Yard tap");
  await fill(page, "low", "150");
  await fill(page, "typical", "160");
  await fill(page, "high", "175");
  await page.getByTestId("save").click();
  await expect(page.getByRole("link", { name: /^Yard tap, Ropewalk yard: 150 to 175/ })).toBeVisible();

  await press(page, "Add a meter");
  await fill(page, "name", "Pocket meter");
  await page.getByTestId("save").click();
  await expect(page.getByRole("link", { name: /^Pocket meter/ })).toBeVisible();

  await press(page, "Add a rig");
  await fill(page, "name", "Van");
  await press(page, "Small bottle, 7.5 L");
  await choose(page, "Bottle, inner seal");
  await fill(page, "jobsPerWeek", "12");
  await page.getByTestId("save").click();

  await expect(page.getByText("let the pressure down")).toBeVisible();
  await fill(page, "startTotal", "1000");
  await page.getByTestId("save").click();

  await expect(page.getByTestId("verdict-title")).toHaveText("Van: fine");
  const fresh = await rangeLeft(page);
  expect(fresh[1] - fresh[0]).toBeGreaterThan(100);
  // Twelve jobs of 40 L a week, and nothing logged yet.
  await expect(page.getByTestId("date-Van")).toHaveText(/^\w+ \d+ Mar$/);
  const day = numbersIn(await page.getByTestId("date-Van").innerText())[0]!;
  const weeks = (day - new Date(FIRST_DAY).getUTCDate()) / 7;
  expect([weeks > fresh[0] / 480 - 0.3, weeks < fresh[1] / 480 + 0.3]).toEqual([true, true]);

  const week = [
    ["0", "1200"],
    ["0", "1400"],
    ["0", "1600"],
    ["1", "1780"],
    ["7", "1860"],
    ["13", "1900"],
    ["24", "1930"],
    ["31", "1950"],
  ] as const;
  const titles: string[] = [];
  const ranges: (readonly [number, number])[] = [];
  for (const [i, [output, total]] of week.entries()) {
    await page.clock.setFixedTime(FIRST_DAY + (i + 1) * DAY);
    titles.push(await logVisit(page, output, total));
    await expect
      .poll(async () => page.getByTestId("verdict-reason").innerText())
      .toMatch(output === "0" ? /By the count|Out 0|At worst|at worst/i : new RegExp(`Out ${output} ppm NaCl`));
    titles[titles.length - 1] = await page.getByTestId("verdict-title").innerText();
    if (Number(output) < 20) ranges.push(await rangeLeft(page));
  }
  expect(titles[0]).toBe("Van: fine");
  expect(titles.slice(2)).toEqual([
    "Van: watch",
    "Van: watch",
    "Van: watch",
    "Van: finish, rinse more",
    "Van: finish, rinse more",
    "Van: change now",
  ]);
  const width = ([low, high]: readonly [number, number]) => high - low;
  await expect(page.getByTestId("left-Van")).toHaveCount(0);
  await expect(page.getByTestId("date-Van")).toHaveText("now");
  expect(width(ranges[4]!)).toBeLessThan(0.5 * width(fresh));
  expect(width(ranges[5]!)).toBeLessThan(width(ranges[2]!));

  await allSent(page);
  const reason = await page.getByTestId("verdict-reason").innerText();
  await server.end();
  await server.again();
  await page.reload();
  await expect(page.getByTestId("verdict-title")).toHaveText("Van: change now");
  await expect(page.getByTestId("verdict-reason")).toHaveText(reason);
  const { items } = (await server.request("GET", "/api/v1/visits")).body as { items: unknown[] };
  expect(items).toHaveLength(week.length);

  await page.getByTestId("open-history").click();
  await expect(page.getByTestId("visit-line")).toHaveCount(week.length);
  await expect(page.getByTestId("front-line")).toBeVisible();
  await page.getByTestId("new-charge").click();
  await page.getByTestId("only-note").click();
  await choose(page, "Reached its limit");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("verdict-title")).toHaveText("Van: fine");
  await page.getByTestId("open-history").click();
  await expect(page.getByText("Your own capacity")).toBeVisible();
  await expect(page.getByRole("radio", { name: /^1 Mar to/ })).toBeVisible();
});
