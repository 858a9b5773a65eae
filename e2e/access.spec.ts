import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "./support/app";
import { everyPlace } from "./support/places";

/** Contrast goes with the theme and structure with the size: two runs see both of each. */
const LOOKS = [
  { colorScheme: "light", size: { width: 390, height: 844 } },
  { colorScheme: "dark", size: { width: 1280, height: 800 } },
] as const;

/** A walk through all of them takes minutes where many share the machine: each of these takes every third place. */
const WALKS = [0, 1, 2];

for (const { colorScheme, size, walk } of LOOKS.flatMap((look) => WALKS.map((walk) => ({ ...look, walk })))) {
  test(`WCAG 2.2 AA and the checker's best practices hold in every place, ${colorScheme} at ${size.width}, walk ${walk + 1}`, async ({
    page,
    demo,
  }) => {
    await page.setViewportSize(size);
    await page.emulateMedia({ colorScheme });
    const places = await everyPlace(demo);
    for (const path of places.filter((_, i) => i % WALKS.length === walk)) {
      await page.goto(demo.url + path);
      await expect(page.getByRole("main").first()).toContainText(/\w{3}/);
      if (path === "/") await expect(page.getByTestId("verdict-title")).toBeVisible();
      const { violations } = await new AxeBuilder({ page })
        .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"])
        .analyze();
      const found = violations.map(
        ({ id, nodes }) => `${path} ${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(" | ")}`,
      );
      expect(found).toEqual([]);
    }
  });
}

test("every key, field and way on is at least 44 px tall where a glove must hit it", async ({ page, demo }) => {
  await page.goto(demo.url);
  await page.getByTestId("log-a-reading").click();
  await expect(page.getByTestId("keep-it")).toBeVisible();
  // All at one moment: the log draws more of them when it has worked out where the charge stands.
  const small = () =>
    page.getByRole("button").evaluateAll((buttons) =>
      buttons.flatMap((button) => {
        const { width, height } = button.getBoundingClientRect();
        return Math.min(width, height) >= 44 ? [] : [button.getAttribute("aria-label") ?? button.textContent];
      }),
    );
  expect(await page.getByRole("button").count()).toBeGreaterThan(10);
  expect(await small()).toEqual([]);
  await expect(page.getByTestId("log-pad")).toBeVisible();
  expect(await small()).toEqual([]);
});

test("a field has one mark of focus, that of its box", async ({ page, demo }) => {
  await page.goto(`${demo.url}/size/vessel`);
  const input = page.getByTestId("work-peakFlow");
  const box = input.locator("xpath=..");
  const border = () => box.evaluate((node) => getComputedStyle(node).borderTopColor);
  const before = await border();
  await input.focus();
  await expect.poll(border).not.toBe(before);
  expect(await input.evaluate((node) => getComputedStyle(node).outlineStyle)).toBe("none");
});
