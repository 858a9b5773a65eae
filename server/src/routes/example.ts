import Router from "@koa/router";

/** A scenario ends today; older than this it would end yesterday, ms. */
const FRESH_FOR = 3_600_000;

/** The invented crew to look at, made anew each hour and kept nowhere: no crew's records are touched by it. */
export function exampleRoutes(): Router {
  const router = new Router({ prefix: "/api/v1" });
  let made: { readonly at: number; readonly items: Promise<readonly object[]> } | undefined;
  const scenario = async (now: number) => {
    const { demoScenario } = await import("@winter-bead/demo");
    return demoScenario(new Date(now));
  };
  router.get("/example", async (ctx) => {
    const now = Date.now();
    if (!made || now - made.at > FRESH_FOR) made = { at: now, items: scenario(now) };
    ctx.body = { items: await made.items };
  });
  return router;
}
