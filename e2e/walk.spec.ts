import type { Page } from "@playwright/test";
import { expect, test } from "./support/app";
import { everyPlace, goWithin } from "./support/places";
import { standingOf } from "./support/standing";
import { violationsOn } from "./support/wcag";

/* Every place is walked through once in each look, and all that holds everywhere is looked at on the way. */

// Each on whichever hand is free: no other file is as long as these together.
test.describe.configure({ mode: "parallel" });

/**
 * Contrast goes with the theme and structure with the size: two runs see both of each. One opens each place by its address,
 * as a link from outside does, the other goes from place to place within the app.
 */
const LOOKS = [
  { colorScheme: "light", size: { width: 390, height: 844 }, arrives: "by its address" },
  { colorScheme: "dark", size: { width: 1280, height: 800 }, arrives: "within the app" },
] as const;

/** The walk by addresses takes minutes where many share the machine: each of these takes every third place. */
const WALKS = [0, 1, 2];

/** Known to move when their answer comes, for which no room is held yet. */
const MOVES_YET = new Set(["/weeks", "/weeks/stock", "/weeks/upkeep"]);

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

for (const { colorScheme, size, arrives, walk } of LOOKS.flatMap((look) => WALKS.map((walk) => ({ ...look, walk })))) {
  test(`every place opens without a complaint or a shift, nothing runs off the side, and WCAG 2.2 AA and best practices hold, ${arrives}, ${colorScheme} at ${size.width}, walk ${walk + 1}`, async ({
    page,
    demo,
    complaints,
  }) => {
    await page.setViewportSize(size);
    await page.emulateMedia({ colorScheme });
    await watchShifts(page);
    // A device that was here before: what it knows stands at once.
    await page.goto(demo.url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    const places = await everyPlace(demo);
    for (const path of places.filter((_, i) => i % WALKS.length === walk)) {
      if (arrives === "by its address") await page.goto(demo.url + path);
      else {
        await page.evaluate(() => ((window as unknown as { shift: number }).shift = 0));
        await goWithin(page, path);
      }
      await expect(page.getByRole("main").first()).toContainText(/\w{3}/);
      expect([path, await violationsOn(page)]).toEqual([path, []]);
      const { overflow, shift } = await page.evaluate(() => ({
        overflow: document.documentElement.scrollWidth - window.innerWidth,
        shift: (window as unknown as { shift: number }).shift,
      }));
      expect([path, overflow]).toEqual([path, 0]);
      expect([path, shift <= 0.1 || MOVES_YET.has(path)]).toEqual([path, true]);
    }
    expect(complaints).toEqual([]);
  });
}

for (const { size } of LOOKS)
  test(`the rack says of each rig what is left and until when, as the core does, at ${size.width}`, async ({
    page,
    demo,
  }) => {
    await page.setViewportSize(size);
    await page.goto(demo.url);
    await expect(page.getByTestId("verdict-title")).toBeVisible();
    for (const name of ["Van", "Bay 2", "Quarantine"])
      await expect(page.getByTestId(`left-${name}`)).toHaveText(/\d.*(left|to the stop point|to the first leak)/);
    for (const name of ["Van", "Bay 2", "Quarantine"])
      await expect(page.getByTestId(`date-${name}`)).toHaveText(/today|tomorrow|[A-Z][a-z]{2}/);
    const bay = await standingOf(demo, "Bay 2");
    await expect(page.getByTestId("verdict-title")).toHaveText(bay.title);
    await expect(page.getByTestId("verdict-reason")).toHaveText(bay.reason);
  });
