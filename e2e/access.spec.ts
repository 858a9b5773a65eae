import { expect, test } from "./support/app";

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
