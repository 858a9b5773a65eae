import type { Page } from "@playwright/test";
import { expect, test } from "./support/app";
import { everyPlace } from "./support/places";
import { standingOf } from "./support/standing";

/** Adds up what moves on a page without the hand having moved it. */
const watchShifts = (page: Page) =>
  page.addInitScript(() => {
    const seen = window as unknown as { shift: number };
    seen.shift = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as unknown as { hadRecentInput: boolean; value: number }[])
        if (!entry.hadRecentInput) seen.shift += entry.value;
    }).observe({ type: "layout-shift", buffered: true });
  });

const SIZES = [
  { width: 390, height: 844 },
  { width: 1280, height: 800 },
] as const;

for (const size of SIZES) {
  test(`every place opens at ${size.width} without a complaint, nothing runs off the side, and nothing shifts by more than a tenth`, async ({
    page,
    demo,
    complaints,
  }) => {
    await page.setViewportSize(size);
    await watchShifts(page);
    await page.goto(demo.url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    for (const name of ["Van", "Bay 2", "Quarantine"])
      await expect(page.getByTestId(`left-${name}`)).toHaveText(/\d.*(left|to the stop point|to the first leak)/);
    for (const name of ["Van", "Bay 2", "Quarantine"])
      await expect(page.getByTestId(`date-${name}`)).toHaveText(/today|tomorrow|[A-Z][a-z]{2}/);
    const bay = await standingOf(demo, "Bay 2");
    await expect(page.getByTestId("verdict-title")).toHaveText(bay.title);
    await expect(page.getByTestId("verdict-reason")).toHaveText(bay.reason);
    for (const path of await everyPlace(demo)) {
      await page.goto(demo.url + path);
      await expect(page.getByRole("main").first()).toContainText(/\w{3}/);
      await page.waitForTimeout(900);
      const { overflow, shift } = await page.evaluate(() => ({
        overflow: document.documentElement.scrollWidth - window.innerWidth,
        shift: (window as unknown as { shift: number }).shift,
      }));
      expect([path, overflow]).toEqual([path, 0]);
      expect([path, shift <= 0.1]).toEqual([path, true]);
    }
    expect(complaints).toEqual([]);
  });
}

test("wide, the list stays and the chosen rig stands beside it", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(demo.url);
  const detail = page.getByTestId("history");
  await expect(detail).toContainText("Bay 2");
  await page.getByRole("button", { name: /^Van:/ }).click();
  await expect(detail).toContainText("Van");
  await expect(page.getByTestId("verdict-title")).toContainText("Van");
});

test("the keyboard alone goes to every place and logs a reading", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("2");
  await expect(page).toHaveURL(/water$/);
  await page.keyboard.press("3");
  await expect(page).toHaveURL(/size$/);
  await page.keyboard.press("4");
  await expect(page).toHaveURL(/weeks$/);
  await page.keyboard.press("7");
  await expect(page).toHaveURL(/lab$/);
  await page.keyboard.press("1");
  // A quick hand: its first key falls in the very moment in which the pad stands there, before it is painted.
  await page.evaluate(() => {
    const observer = new MutationObserver(() => {
      if (!document.querySelector('[data-testid="keep-it"]')) return;
      observer.disconnect();
      document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "1", bubbles: true }));
    });
    observer.observe(document.body, { childList: true, subtree: true });
  });
  await page.keyboard.press("l");
  await expect(page.getByTestId("keep-it")).toBeVisible();
  await page.keyboard.type("2.5");
  await expect(page.getByTestId("log-output")).toContainText("12.5");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await expect(page.getByTestId("log-output")).toHaveText(/^Output12ppm/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("7");
  await page.keyboard.press("Escape");
  await page.keyboard.press("3");
  await expect(page.getByTestId("log-output")).toHaveText(/^Output123ppm/);
});

test("US units change every figure and its unit, and the choice stays", async ({ page, demo }) => {
  await page.goto(`${demo.url}/settings`);
  await page.getByRole("radio", { name: /^US/ }).click();
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict")).toContainText("US gal");
  await page.goto(`${demo.url}/size`);
  await expect(page.getByRole("heading", { name: "Gallons from this tap" })).toBeVisible();
  await expect(page.getByTestId("life-range")).toContainText("US gal");
});
