import Router from "@koa/router";
import { date, fieldErrorsOf } from "@winter-bead/contract";
import type { Context } from "koa";
import { SupplierTrouble, type ReportClient } from "../devices/report-client";
import { sendFieldErrors, sendProblem } from "./problems";

/** Answers with what the supplier's service gave, or with its trouble in words. */
async function passOn(ctx: Context, ask: () => Promise<unknown>): Promise<void> {
  try {
    ctx.body = await ask();
  } catch (error) {
    if (!(error instanceof SupplierTrouble)) throw error;
    sendProblem(ctx, error.status, "No report from the supplier", { detail: error.message });
  }
}

/** Reports of the water supplier's service, checked for their form; units and names are read by the client. */
export function supplierRoutes(client: ReportClient): Router {
  const router = new Router({ prefix: "/api/v1/supplier" });
  router.get("/zones", (ctx) => passOn(ctx, async () => ({ items: await client.zones() })));
  router.get("/zones/:zone/report", async (ctx) => {
    const { on } = ctx.query as { on?: string };
    const checked = date("The day of the report").optional().safeParse(on);
    if (!checked.success)
      return sendFieldErrors(
        ctx,
        fieldErrorsOf(checked.error).map((error) => ({ ...error, path: "on" })),
      );
    await passOn(ctx, () => client.report(String(ctx["params"].zone), on));
  });
  return router;
}
