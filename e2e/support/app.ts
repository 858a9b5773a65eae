import { expect, test as base, type Page } from "@playwright/test";
import { RunningServer } from "../../server/tests/running-server";
import { Devices } from "./device";

interface Fixtures {
  /** Complaints of the page's console; a test fails when there is one. */
  readonly complaints: string[];
  /** For tests that cut the network or the server: what the browser says of that is no error of the page. */
  readonly networkMayFail: boolean;
  /** For tests that break a place on purpose. */
  readonly complaintsAreExpected: boolean;
  /** For stories of what a device has that was never here: no file of the app is kept from the story before. */
  readonly isNewDevice: boolean;
}

interface WorkerFixtures {
  readonly demo: RunningServer;
  readonly devices: Devices;
}

/** A browser page that must stay free of errors, and a server with the demo shared by the tests of a worker. */
export const test = base.extend<Fixtures, WorkerFixtures>({
  networkMayFail: [false, { option: true }],
  complaintsAreExpected: [false, { option: true }],
  isNewDevice: [false, { option: true }],
  complaints: [
    async ({ page, networkMayFail, complaintsAreExpected }, use) => {
      const complaints: string[] = [];
      page.on("console", (message) => {
        if (message.type() === "error" && !(networkMayFail && /Failed to load resource|net::ERR/.test(message.text())))
          complaints.push(message.text());
      });
      page.on("pageerror", (error) => complaints.push(error.message));
      await use(complaints);
      if (!complaintsAreExpected) expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
  context: async ({ browser, devices, isNewDevice, locale, serviceWorkers }, use) => {
    if (isNewDevice) {
      const context = await browser.newContext();
      await use(context);
      await context.close();
      return;
    }
    const device = await devices.of({ locale, serviceWorkers });
    await use(device.context);
    await device.forget();
  },
  page: async ({ context, viewport }, use) => {
    const page = await context.newPage();
    if (viewport) await page.setViewportSize(viewport);
    await use(page);
  },
  devices: [
    async ({ playwright }, use) => {
      const devices = new Devices(playwright.chromium);
      await use(devices);
      await devices.end();
    },
    { scope: "worker" },
  ],
  demo: [
    async ({}, use) => {
      const server = await RunningServer.start({ flags: [] });
      await use(server);
      await server.remove();
    },
    { scope: "worker" },
  ],
});

export { expect, RunningServer };

/** A story in a time of its own is no phone with a wrong clock: the server's answers don't tell it otherwise. */
export const answersTellNoTime = (page: Page) =>
  page.route("**/api/**", async (route) => {
    try {
      const response = await route.fetch();
      const { date: _, ...headers } = response.headers();
      await route.fulfill({ response, headers });
    } catch {
      // The server was ended, or the page left.
      await route.abort().catch(() => undefined);
    }
  });

/** Types into a form's field by its name. */
export const fill = (page: Page, name: string, value: string) => page.getByTestId(`field-${name}`).fill(value);

/** Presses a button, or follows a link that looks like one. */
export const press = (page: Page, name: string | RegExp) => {
  const exact = typeof name === "string";
  return page.getByRole("button", { name, exact }).or(page.getByRole("link", { name, exact })).click();
};
export const choose = (page: Page, name: string) => page.getByRole("radio", { name, exact: true }).click();

/** Numbers of a text, thousands apart or not. */
export const numbersIn = (text: string) =>
  [...text.matchAll(/\d[\d,]*(?:\.\d+)?/g)].map(([digits]) => Number(digits.replaceAll(",", "")));

/** Taps digits on the log's own pad. */
export async function tapDigits(page: Page, digits: string): Promise<void> {
  const pad = page.getByRole("group", { name: "Number pad" });
  for (const digit of digits)
    await pad.getByRole("button", { name: digit === "." ? "Point" : digit, exact: true }).click();
}

/** Waits until nothing waits to be sent. */
export const allSent = (page: Page) =>
  expect(page.getByTestId("sent-state")).toHaveText("all sent", { timeout: 30_000 });
