import Router from "@koa/router";
import { COMPUTE } from "@winter-bead/contract";
import { sendFieldErrors } from "./problems";

/** Every calculation of the core as JSON over HTTP, without an account and without storage. */
export function computeRoutes(): Router {
  const router = new Router({ prefix: "/api/v1/compute" });
  for (const [name, { compute }] of Object.entries(COMPUTE)) {
    router.post(`/${name}`, (ctx) => {
      const outcome = compute(ctx.request.body ?? {});
      if (outcome.ok) ctx.body = outcome.value;
      else sendFieldErrors(ctx, outcome.errors);
    });
  }
  return router;
}
