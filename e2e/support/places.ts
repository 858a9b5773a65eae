import type { Page } from "@playwright/test";
import type { RunningServer } from "./app";

const idOf = async (server: RunningServer, kind: string, i: number) =>
  ((await server.request("GET", `/api/v1/${kind}`)).body as { items: { id: string }[] }).items[i]!.id;

/** Every place of the app, with the demo's records in the addresses that name one. */
export async function everyPlace(demo: RunningServer): Promise<readonly string[]> {
  const rig = await idOf(demo, "rigs", 0);
  const train = await idOf(demo, "rigs", 2);
  const tap = await idOf(demo, "taps", 3);
  const plan = await idOf(demo, "plans", 0);
  const charge = await idOf(demo, "charges", 0);
  const visit = await idOf(demo, "visits", 9);
  const test = await idOf(demo, "feed-tests", 0);
  const check = await idOf(demo, "membrane-checks", 0);
  const report = await idOf(demo, "water-reports", 0);
  const site = await idOf(demo, "sites", 0);
  const vessel = await idOf(demo, "vessels", 0);
  const booking = await idOf(demo, "bookings", 0);
  const week = await idOf(demo, "usual-weeks", 0);
  const off = await idOf(demo, "days-off", 0);
  const bag = await idOf(demo, "bags", 0);
  const disposal = await idOf(demo, "disposals", 0);
  const pressure = await idOf(demo, "pressure-checks", 0);
  const step = await idOf(demo, "refill-steps", 0);
  const { workId } = (await demo.request("GET", `/api/v1/refill-steps/${step}`)).body as { workId: string };
  const service = await idOf(demo, "services", 0);
  return [
    "/",
    `/log/${rig}`,
    `/log/${train}`,
    "/water",
    `/water/${tap}`,
    `/water/report?tap=${tap}`,
    "/water/meters",
    "/water/membrane",
    `/water/feed-test?id=${test}`,
    `/water/membrane-check?id=${check}`,
    `/water/report?id=${report}`,
    "/lab",
    "/size",
    "/size/vessel",
    "/size/membrane",
    "/size/claims",
    "/size/habits",
    "/size/plans",
    `/size/plans/${plan}`,
    "/size/prices",
    "/weeks",
    "/weeks/work",
    "/weeks/stock",
    "/weeks/upkeep",
    "/weeks/reminders",
    `/weeks/booking?rig=${rig}`,
    `/weeks/booking?id=${booking}`,
    `/weeks/usual-week?id=${week}`,
    `/weeks/day-off?id=${off}`,
    `/weeks/bag?id=${bag}`,
    "/weeks/bag",
    `/weeks/label?bag=${bag}`,
    `/weeks/disposal?id=${disposal}`,
    `/weeks/service?id=${service}`,
    `/weeks/pressure?id=${pressure}`,
    `/refill?rig=${rig}`,
    `/refill?rig=${rig}&what=refill`,
    `/refill?rig=${rig}&what=early`,
    `/refill?rig=${rig}&what=sediment`,
    `/refill/work?id=${workId}`,
    `/refill/practice?rig=${rig}`,
    "/history",
    `/history/${rig}`,
    `/history/${train}`,
    `/history/charge?id=${charge}`,
    `/history/visit?id=${visit}`,
    `/history/visit?rig=${rig}`,
    "/setup",
    "/setup/tap",
    "/setup/meter",
    "/setup/rig",
    `/setup/rig?id=${rig}`,
    `/setup/rig?id=${train}`,
    `/setup/train?rig=${train}`,
    `/setup/vessel?id=${vessel}`,
    `/setup/site?id=${site}`,
    `/setup/charge?rig=${rig}`,
    "/settings",
    "/setup/first",
    "/words",
    "/nowhere",
  ];
}

/**
 * Goes to a place of the open app as its own links do, without loading the app anew; there when its heading has the focus,
 * which goes with the place. Two addresses of one place follow each other nowhere in the app: it goes by another between.
 */
export async function goWithin(page: Page, path: string): Promise<void> {
  const [from, to] = [new URL(page.url()), new URL(path, page.url())];
  if (from.pathname === to.pathname) await goWithin(page, to.pathname === "/words" ? "/" : "/words");
  await page.evaluate((address) => {
    (document.activeElement as HTMLElement | null)?.blur();
    history.pushState(null, "", address);
    dispatchEvent(new PopStateEvent("popstate"));
  }, path);
  await page.waitForFunction(() => document.activeElement?.tagName === "H1");
}

/** Opens an address; where the app stands open already it goes there within it, which costs no second start. */
export async function openAt(page: Page, address: string): Promise<void> {
  const { origin, pathname, search } = new URL(address);
  if (page.url().startsWith(`${origin}/`)) await goWithin(page, pathname + search);
  else await page.goto(address);
}
