import Router from "@koa/router";
import type { Post } from "../reminders/mail";
import { sendProblem } from "./problems";

/** What the simulated mailbox got; a real mail server is nobody's to look into. */
export function reminderRoutes({ received }: Post): Router {
  const router = new Router({ prefix: "/api/v1" });
  router.get("/reminders-sent", async (ctx) => {
    if (!received) {
      ctx.body = { real: true, items: [] };
      return;
    }
    try {
      ctx.body = { real: false, items: await received() };
    } catch {
      sendProblem(ctx, 503, "The simulated mailbox is out of order", { detail: "It is started again by itself." });
    }
  });
  return router;
}
