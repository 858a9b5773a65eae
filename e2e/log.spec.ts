import { allSent, expect, numbersIn, tapDigits, test } from "./support/app";
import type { RunningServer } from "./support/app";
import type { Page } from "@playwright/test";

const rigs = async (demo: RunningServer) =>
  ((await demo.request("GET", "/api/v1/rigs")).body as { items: { id: string; name: string }[] }).items;
const openLog = async (page: Page, demo: RunningServer, name: string) => {
  const rig = (await rigs(demo)).find((each) => each.name === name)!;
  await page.goto(`${demo.url}/log/${rig.id}`);
  await expect(page.getByTestId("live-left")).toBeVisible();
};

test("the button names its rig, another is one tap away, and a reading typed for the wrong one goes along", async ({
  page,
  demo,
}) => {
  await openLog(page, demo, "Van");
  await expect(page.getByTestId("keep-it")).toHaveText("Log Van");
  await tapDigits(page, "17");
  await page.getByTestId("log-water").click();
  await tapDigits(page, "5");
  await page.getByTestId("log-instead-Bay 2").click();
  await expect(page.getByTestId("keep-it")).toHaveText("Log Bay 2");
  await expect(page.getByTestId("log-output")).toContainText("17");
  await expect(page.getByTestId("log-water")).not.toContainText("5 ");
  // Where something waits already, both stay.
  await page.getByTestId("log-instead-Van").click();
  await expect(page.getByTestId("log-output")).toContainText("17");
  await openLog(page, demo, "Bay 2");
  await tapDigits(page, "9");
  await page.getByTestId("log-instead-Van").click();
  await expect(page.getByTestId("log-output")).toContainText("17");
  await page.getByTestId("log-instead-Bay 2").click();
  await expect(page.getByTestId("log-output")).toContainText("9");
});

test("the rig logged last on this device stands ready, not the neediest; another hand's device has another", async ({
  page,
  demo,
  browser,
}) => {
  await page.goto(demo.url);
  const needy = await page.getByTestId("log-a-reading").innerText();
  const other = needy === "Log Van" ? "Quarantine" : "Van";
  await openLog(page, demo, other);
  await tapDigits(page, "0");
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("verdict-title")).toContainText(other);
  await allSent(page);
  await page.goto(demo.url);
  await expect(page.getByTestId("log-a-reading")).toHaveText(`Log ${other}`);
  const elsewhere = await (await browser.newContext()).newPage();
  await elsewhere.goto(demo.url);
  await expect(elsewhere.getByTestId("log-a-reading")).toHaveText(needy);
  await elsewhere.context().close();
});

test("the working opens in sight in place of the pad, typing goes on under it, and the answer is read out once the hand rests", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 390, height: 664 });
  await openLog(page, demo, "Van");
  await tapDigits(page, "3");
  await expect(page.getByTestId("live-aloud")).toContainText(/Out ([\d.]+, then )*3 /, { timeout: 10_000 });
  await page.getByTestId("why-left").getByRole("button").click();
  const formula = page.getByTestId("explain-formula").first();
  await expect(formula).toBeInViewport({ ratio: 1 });
  await expect(page.getByTestId("live-left")).toBeInViewport({ ratio: 1 });
  await page.keyboard.press("1");
  await expect(page.getByTestId("log-output")).toContainText("31");
  await page.getByTestId("close-why").click();
  await expect(page.getByRole("group", { name: "Number pad" })).toBeVisible();
});

test("on a wide screen the log stands beside its history, on a low one the pad beside what it types", async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openLog(page, demo, "Van");
  await expect(page.getByTestId("history")).toBeVisible();
  await expect(page.getByTestId("visit-line").first()).toBeVisible();
  await page.setViewportSize({ width: 780, height: 360 });
  for (const part of ["log-output", "keep-it", "live-left"])
    await expect(page.getByTestId(part)).toBeInViewport({ ratio: 1 });
});

test("what is typed goes to a worker of its own: the page's own answer and the kept one are the same", async ({
  page,
  demo,
}) => {
  await openLog(page, demo, "Quarantine");
  await tapDigits(page, "1");
  await expect(page.getByTestId("live-reason")).toContainText(/Out ([\d.]+, then )*1 /);
  const [typed] = numbersIn(await page.getByTestId("live-left").innerText());
  await page.getByTestId("keep-it").click();
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out ([\d.]+, then )*1 /);
  const label = await page.getByRole("button", { name: /^Quarantine: [\d,]+ L/ }).getAttribute("aria-label");
  const [kept] = numbersIn(/: ([\d,.]+) L/.exec(label!)![1]!);
  expect(kept! / typed!).toBeCloseTo(1, 1);
});
