import Router from "@koa/router";
import type { Post } from "../reminders/mail";
import type { ReminderTrouble } from "../reminders/reminder-clock";
import { sendProblem } from "./problems";

const told = (trouble: ReminderTrouble | undefined) =>
  trouble ? { trouble: { at: new Date(trouble.at).toISOString(), words: trouble.words } } : {};

/** What the simulated mailbox got, a real mail server being nobody's to look into; and what went wrong with the mails. */
export function reminderRoutes(
  { received }: Post,
  trouble: () => ReminderTrouble | undefined = () => undefined,
): Router {
  const router = new Router({ prefix: "/api/v1" });
  router.get("/reminders-sent", async (ctx) => {
    if (!received) {
      ctx.body = { real: true, items: [], ...told(trouble()) };
      return;
    }
    try {
      ctx.body = { real: false, items: await received(), ...told(trouble()) };
    } catch {
      sendProblem(ctx, 503, "The simulated mailbox is out of order", { detail: "It is started again by itself." });
    }
  });
  return router;
}
