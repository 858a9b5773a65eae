import Router from "@koa/router";
import { fieldErrorsOf, id as idSchema, text } from "@winter-bead/contract";
import type { Context } from "koa";
import { crewCalendar, listFeeds, makeFeed, opens, readKey, revokeFeed } from "../calendar/feeds";
import { CalendarTrouble, type OutsideCalendar } from "../calendar/outside-calendar";
import type { Session } from "../store/crew-scope";
import type { Desk } from "../store/desk";
import { Gate } from "../store/gate";
import { sendFieldErrors, sendProblem } from "./problems";

const sessionOf = (ctx: Context): Session => ctx.state["session"] as Session;
const MOST_FEEDS = 20;
/** Calendars that are fetched at once, and may wait for that. */
const ASKING = { atOnce: 3, mostWaiting: 20, patience: 4_000 } as const;

export interface CalendarParts {
  readonly desk: Desk;
  readonly outside: OutsideCalendar;
  /** The simulated calendar that ships with this. */
  readonly sample?: Promise<string>;
}

/** Calendars in and out: one that somebody else keeps is fetched, the crew's own is read at a secret address. */
export function calendarRoutes({ desk, outside, sample }: CalendarParts): Router {
  const router = new Router({ prefix: "/api/v1/calendar" });
  const asking = new Gate(ASKING.atOnce, ASKING.mostWaiting, ASKING.patience);

  router.get("/outside", async (ctx) => {
    try {
      ctx.body = { text: await asking.run(() => outside.fetch(String(ctx.query["address"] ?? ""))) };
    } catch (error) {
      if (!(error instanceof CalendarTrouble)) throw error;
      // 422 rather than 502: the address is the user's, and the server itself is in reach.
      sendProblem(ctx, error.status === 403 ? 403 : 422, "No calendar", { detail: error.message });
    }
  });

  router.get("/sample", async (ctx) => {
    const address =
      sample &&
      (await Promise.race([sample, new Promise<undefined>((late) => setTimeout(() => late(undefined), 1000))]));
    ctx.body = address ? { address: `${address}/round.ics` } : {};
  });

  router.get("/feeds", async (ctx) => {
    const { crewId } = sessionOf(ctx);
    ctx.body = { items: await desk.read(sessionOf(ctx), (manager) => listFeeds(manager, crewId)) };
  });

  router.post("/feeds", async (ctx) => {
    const { crewId } = sessionOf(ctx);
    const sent = (ctx.request.body ?? {}) as { name?: unknown };
    const name = text("The name of the address", 60).safeParse(sent.name);
    if (!name.success)
      return sendFieldErrors(
        ctx,
        fieldErrorsOf(name.error).map((error) => ({ ...error, path: "name" })),
      );
    await desk.write(sessionOf(ctx), async (manager) => {
      if ((await listFeeds(manager, crewId)).length >= MOST_FEEDS)
        return sendProblem(ctx, 409, "Too many addresses", {
          detail: `Take one back first: ${MOST_FEEDS} are in use.`,
        });
      const { key, ...feed } = await makeFeed(manager, crewId, name.data);
      ctx.status = 201;
      ctx.body = { ...feed, path: `/api/v1/calendar/feed/${key}.ics` };
    });
  });

  router.delete("/feeds/:id", async (ctx) => {
    const id = idSchema.safeParse(ctx["params"].id);
    const { crewId } = sessionOf(ctx);
    const revoked =
      id.success && (await desk.write(sessionOf(ctx), (manager) => revokeFeed(manager, crewId, id.data.toLowerCase())));
    if (revoked) ctx.body = { id: id.data };
    else sendProblem(ctx, 404, "There is no such address in use");
  });

  router.get("/feed/:key", async (ctx) => {
    const key = readKey(String(ctx["params"].key).replace(/\.ics$/, ""));
    // Whose calendar it is the key says, not the session: whoever follows it has none.
    const calendar =
      key &&
      (await desk.read({ crewId: key.crewId }, async (manager) =>
        (await opens(manager, key)) ? crewCalendar(manager, key.crewId, Date.now()) : undefined,
      ));
    if (calendar === undefined) {
      sendProblem(ctx, 404, "There is no calendar at this address");
      return;
    }
    ctx.set("Cache-Control", "private, max-age=300");
    ctx.set("Content-Type", "text/calendar; charset=utf-8");
    ctx.body = calendar;
  });
  return router;
}
