import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { BrowserContext, BrowserContextOptions, BrowserType, Page } from "@playwright/test";

/** What stays the same on a device as long as its browser runs. */
export type DeviceOptions = Pick<BrowserContextOptions, "locale" | "serviceWorkers">;

const WHAT_STORIES_KEEP = "cookies,file_systems,indexeddb,local_storage,websql";

/**
 * A browser with a disk, that was here before: between the stories it forgets all that they kept, but not the files of the
 * app, which a browser without a disk fetches, unpacks and compiles anew for each story (three of seven seconds).
 */
class Device {
  private readonly origins = new Set<string>();

  private constructor(
    private readonly folder: string,
    readonly context: BrowserContext,
    private readonly blank: Page,
  ) {
    context.on("request", (request) => {
      if (request.isNavigationRequest()) this.origins.add(new URL(request.url()).origin);
    });
  }

  static async start(browserType: BrowserType, options: DeviceOptions): Promise<Device> {
    const folder = mkdtempSync(join(tmpdir(), "winter-bead-device-"));
    const context = await browserType.launchPersistentContext(folder, options);
    return new Device(folder, context, context.pages()[0] ?? (await context.newPage()));
  }

  /** Closes what a story opened, and forgets what it kept. */
  async forget(): Promise<void> {
    const { context, blank, origins } = this;
    for (const page of context.pages()) if (page !== blank) await page.close();
    await context.unrouteAll({ behavior: "ignoreErrors" });
    await context.setOffline(false);
    const session = await context.newCDPSession(blank);
    for (const origin of origins)
      if (origin !== "null")
        await session.send("Storage.clearDataForOrigin", { origin, storageTypes: WHAT_STORIES_KEEP });
    await session.detach();
    origins.clear();
  }

  async end(): Promise<void> {
    await this.context.close();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** The devices of one worker: one for each way in which stories open a browser. */
export class Devices {
  private readonly known = new Map<string, Device>();

  constructor(private readonly browserType: BrowserType) {}

  async of({ locale, serviceWorkers }: DeviceOptions): Promise<Device> {
    const key = `${locale} ${serviceWorkers}`;
    const device = this.known.get(key) ?? (await Device.start(this.browserType, { locale, serviceWorkers }));
    this.known.set(key, device);
    return device;
  }

  async end(): Promise<void> {
    for (const device of this.known.values()) await device.end();
  }
}
