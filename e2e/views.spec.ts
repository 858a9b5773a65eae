import { expect, test } from "./support/app";

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

test("what a stage does here is said by what the crew's charges taught, and by nothing before", async ({
  page,
  demo,
}) => {
  const { items } = (await demo.request("GET", "/api/v1/rigs")).body as { items: { id: string; name: string }[] };
  const address = `${demo.url}/setup/train?rig=${items.find(({ name }) => name === "Quarantine")!.id}`;
  await page.addInitScript(() => {
    const said = new Set<string>();
    Object.assign(globalThis, { said });
    new MutationObserver(() => {
      const text = document.querySelector<HTMLElement>('[data-testid="at-tap-degasser"]')?.innerText;
      if (text) said.add(text);
    }).observe(document, { childList: true, subtree: true, characterData: true });
  });
  await page.goto(address);
  const final = page.getByTestId("at-tap-degasser");
  await expect(final).toContainText("A charge gives");
  // Opened again, the device has its last answer at once, yet not what the charges taught.
  await page.reload();
  await expect(final).toContainText("A charge gives");
  await page.getByRole("link", { name: "Rack" }).click();
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  await page.goBack();
  await expect(final).toContainText("A charge gives");
  expect(await page.evaluate(() => [...(globalThis as never as { said: Set<string> }).said])).toEqual([
    await final.innerText(),
  ]);
});
