import Router from "@koa/router";
import { COMPUTE, type ComputeName, type ComputeOutcome } from "@winter-bead/contract";
import type { Context } from "koa";
import { PoolFull, Stopped, TookTooLong, type ComputePool } from "../compute/compute-pool";
import { sendFieldErrors, sendUnavailable } from "./problems";

function answer(ctx: Context, outcome: ComputeOutcome): void {
  if (outcome.ok) ctx.body = outcome.value;
  else sendFieldErrors(ctx, outcome.errors);
}

/** A heavy calculation in the pool; it ends when the asker hangs up, and after ten seconds. */
async function answerFromPool(ctx: Context, pool: ComputePool, name: ComputeName): Promise<void> {
  const gone = new AbortController();
  ctx.res.once("close", () => gone.abort());
  try {
    answer(ctx, await pool.run(name, ctx.request.body ?? {}, gone.signal));
  } catch (error) {
    if (error instanceof Stopped) return;
    if (error instanceof TookTooLong)
      return sendUnavailable(
        ctx,
        `This calculation was stopped after ${pool.longest} seconds`,
        "Ask for less at once: fewer cells, options, paths or readings.",
        10,
      );
    if (!(error instanceof PoolFull)) throw error;
    sendUnavailable(
      ctx,
      "Too many calculations at once",
      "Every thread is busy and the queue is full; ask again in a moment.",
      2,
    );
  }
}

/** Every calculation of the core as JSON over HTTP, without an account and without storage. */
export function computeRoutes(pool: ComputePool): Router {
  const router = new Router({ prefix: "/api/v1/compute" });
  for (const [name, { compute, check, heavy }] of Object.entries(COMPUTE)) {
    router.post(`/${name}`, async (ctx) => {
      const body: unknown = ctx.request.body ?? {};
      if (!heavy) return answer(ctx, compute(body));
      const errors = check(body);
      if (errors.length > 0) return sendFieldErrors(ctx, errors);
      await answerFromPool(ctx, pool, name as ComputeName);
    });
  }
  return router;
}
