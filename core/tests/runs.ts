/**
 * How often a property is tried: a third of what it is worth in `bin/test`, so that this stays quick, and as often as one
 * likes by a command: `TEST_RUNS=10 npx jest --selectProjects plain`.
 */
export const runs = (many: number): number => Math.max(5, Math.ceil(many * Number(process.env["TEST_RUNS"] ?? 1 / 3)));

/** What is long, a year lived by many owners, is so only where that is asked for. */
export const isThorough = process.env["TEST_RUNS"] !== undefined;
