import { COMPUTE, type ComputeName, type ComputeOutcome } from "@winter-bead/contract";

/** One calculation in a thread of its own. */
export default ({ name, body }: { readonly name: ComputeName; readonly body: unknown }): ComputeOutcome =>
  COMPUTE[name].compute(body);
