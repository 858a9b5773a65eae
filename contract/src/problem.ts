import { z } from "zod";

export { PROBLEMS } from "./problem-types";

/** RFC 9457 problem details, as this API sends them. */
export const problem = z
  .strictObject({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string().optional(),
    errors: z.array(z.strictObject({ path: z.string(), message: z.string() })).optional(),
    /** On 409: what is kept here, and what was sent. */
    current: z.unknown().optional(),
    sent: z.unknown().optional(),
  })
  .meta({ id: "Problem" });

export type Problem = z.infer<typeof problem>;
export interface FieldError {
  readonly path: string;
  readonly message: string;
}

const pathText = (path: readonly PropertyKey[]) => path.map(String).join(".");

type Issue = z.core.$ZodIssue;

/** Of a union's alternatives, the one the sender most likely meant: known fields, fewest complaints. */
function likeliestBranch(branches: readonly (readonly Issue[])[]): readonly Issue[] | undefined {
  const strangeness = (issues: readonly Issue[]) =>
    issues.reduce((sum, issue) => sum + (issue.code === "unrecognized_keys" ? issue.keys.length * 10 : 1), 0);
  return [...branches].filter((issues) => strangeness(issues) < 10).sort((a, b) => strangeness(a) - strangeness(b))[0];
}

function fieldErrors(issues: readonly Issue[], prefix: readonly PropertyKey[]): FieldError[] {
  return issues.flatMap((issue) => {
    const path = [...prefix, ...issue.path];
    if (issue.code === "unrecognized_keys")
      return issue.keys.map((key) => ({ path: pathText([...path, key]), message: issue.message }));
    if (issue.code === "invalid_union") {
      const branch = likeliestBranch(issue.errors);
      if (branch && branch.length > 0 && branch.some((inner) => inner.path.length > 0))
        return fieldErrors(branch, path);
    }
    return [{ path: pathText(path), message: issue.message }];
  });
}

/** The complaints of a failed check, one per field, in the technician's words. */
export const fieldErrorsOf = (error: z.ZodError): FieldError[] => fieldErrors(error.issues, []);
