import type { ComputeName } from "../src/index";
import { COMPUTE } from "../src/index";
import cases from "./reference-cases.json";

interface Tolerance {
  readonly relative?: number;
  readonly absolute?: number;
  readonly days?: number;
  readonly paths?: { readonly [path: string]: Tolerance };
}

export interface ReferenceCase {
  readonly id: string;
  readonly endpoint: string;
  readonly request: unknown;
  readonly expect?: { readonly [field: string]: unknown };
  readonly tolerance?: Tolerance;
  readonly status?: number;
}

/** Worked cases of the calculations that exist so far, answers made by a separate implementation. */
export const REFERENCE_CASES = (cases as unknown as readonly ReferenceCase[]).filter(
  (each) => each.endpoint in COMPUTE,
) as readonly (ReferenceCase & { readonly endpoint: ComputeName })[];

const isRule = (value: object) => Object.keys(value).some((key) => key.startsWith("$"));

interface Rule {
  readonly $min?: number;
  readonly $max?: number;
  readonly $minItems?: number;
  readonly $maxItems?: number;
  readonly $absent?: boolean;
}

function meetsRule(rule: Rule, found: unknown): boolean {
  if (rule.$absent) return found === undefined;
  if (rule.$minItems !== undefined && !(Array.isArray(found) && found.length >= rule.$minItems)) return false;
  if (rule.$maxItems !== undefined && !(Array.isArray(found) && found.length <= rule.$maxItems)) return false;
  if (rule.$min !== undefined && !((found as number) >= rule.$min)) return false;
  return rule.$max === undefined || (found as number) <= rule.$max;
}

function isNear(expected: number, found: unknown, tolerance: Tolerance): boolean {
  const room = Math.max((tolerance.relative ?? 0) * Math.abs(expected), tolerance.absolute ?? 0, 1e-12);
  return typeof found === "number" && Math.abs(found - expected) <= room;
}

const DATE = /^\d{4}-\d{2}-\d{2}$/;

/** Where an answer leaves its reference case, as sentences; none when it meets the case. */
export function differences(
  expected: { readonly [field: string]: unknown },
  found: unknown,
  tolerance: Tolerance,
  at = "",
): string[] {
  return Object.entries(expected).flatMap(([field, value]) => {
    const path = at + field;
    const got = (found as { [field: string]: unknown } | undefined)?.[field];
    const complaint = [`${path}: expected ${JSON.stringify(value)}, found ${JSON.stringify(got)}`];
    if (typeof value === "number") return isNear(value, got, tolerance.paths?.[path] ?? tolerance) ? [] : complaint;
    if (typeof value === "string" && DATE.test(value) && tolerance.days !== undefined)
      return Math.abs(Date.parse(value) - Date.parse(String(got))) <= tolerance.days * 86_400_000 ? [] : complaint;
    if (value !== null && typeof value === "object")
      return isRule(value)
        ? meetsRule(value, got)
          ? []
          : complaint
        : differences(value as { [field: string]: unknown }, got, tolerance, `${path}.`);
    return value === got ? [] : complaint;
  });
}
