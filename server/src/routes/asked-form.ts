import type { Context, Next } from "koa";
import { sendProblem } from "./problems";

const METHODS = ["GET", "HEAD", "PUT", "POST", "DELETE", "OPTIONS"];
/** Forms in which an answer can go out. */
const ENCODINGS = ["br", "gzip", "deflate", "identity"];

/**
 * Turns away methods that no address here takes. Who accepts no form of an answer at all gets it plain (RFC 9110, 12.5.3):
 * what was done is done by then, and can't be told in no form.
 */
export async function askedForm(ctx: Context, next: Next): Promise<void> {
  if (!METHODS.includes(ctx.method)) {
    ctx.set("Allow", METHODS.join(", "));
    sendProblem(ctx, 405, "This address does not take that method");
    return;
  }
  if (!ctx.acceptsEncodings(...ENCODINGS)) ctx.req.headers["accept-encoding"] = "identity";
  await next();
}
