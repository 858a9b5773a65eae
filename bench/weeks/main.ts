import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { isMainThread, parentPort, Worker, workerData } from "node:worker_threads";
import { addedYear, Cleaner, emptyYear, type Reads, type Year } from "./year";

/**
 * A year of work, day by day, in invented worlds: `bench/run weeks [seeds] [meter] [truly]`. `meter` leaves the plan out,
 * which is quick; `truly` has outputs read truer than is believed of a meter.
 */
const SEEDS = Number(process.argv[2] ?? 200);
const METER_ALONE = process.argv.includes("meter");
const READS: Reads = process.argv.includes("truly") ? "truly" : "as-believed";
const FIRST = 31_000;

interface Both {
  readonly plan: readonly Year[];
  readonly meter: readonly Year[];
}

const percent = (part: number, whole: number) => (whole === 0 ? "–" : `${((100 * part) / whole).toFixed(1)} %`);

/** Dates of one owner go wrong together: the share of years, not of dates, tells what is chance. */
function evenWords(years: readonly Year[]): string {
  const shares = years.flatMap(({ early, onTheDay, dated }) => (dated > 0 ? [(early + onTheDay / 2) / dated] : []));
  const mean = shares.reduce((sum, each) => sum + each, 0) / shares.length;
  const sd = Math.sqrt(shares.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (shares.length - 1));
  const band = (2.576 * sd) / Math.sqrt(shares.length);
  const isEven = Math.abs(mean - 0.5) <= band;
  return `${(100 * mean).toFixed(1)} % give or take ${(100 * band).toFixed(1)} (even within chance: ${isEven ? "yes" : "no"})`;
}

async function main(): Promise<void> {
  const threads = availableParallelism();
  const parts = await Promise.all(
    Array.from(
      { length: threads },
      (_, part) =>
        new Promise<Both>((resolve, reject) => {
          const worker = new Worker(fileURLToPath(import.meta.url), {
            workerData: { part, threads, seeds: SEEDS },
            argv: process.argv.slice(2),
          });
          worker.once("message", resolve);
          worker.once("error", reject);
        }),
    ),
  );
  const [plan, meter] = [parts.flatMap((each) => each.plan), parts.flatMap((each) => each.meter)];
  console.log(`${SEEDS} years of an invented window cleaner, day by day, fixed seeds, outputs read ${READS}`);
  const line = (name: string, years: readonly Year[]) => {
    if (years.length === 0) return;
    const { dryDays, bookedDays, refills, unused, dated, inside, middle } = years.reduce(addedYear, emptyYear());
    console.log(
      `${name}: ${percent(dryDays, bookedDays)} of ${bookedDays} booked days run dry; ${(refills / SEEDS).toFixed(1)} refills a year, ${percent(unused, refills)} of a charge thrown away`,
    );
    console.log(
      `  dates on day 4 and 9 of a charge (${dated}): likely one too early ${evenWords(years)}; true end between early and late ${percent(inside, dated)}, in the middle 80 % of the futures ${percent(middle, dated)}`,
    );
  };
  line("plan followed", plan);
  line("changed when the meter says so", meter);
}

if (isMainThread) await main();
else {
  const { part, threads, seeds } = workerData as { part: number; threads: number; seeds: number };
  const [plan, meter]: [Year[], Year[]] = [[], []];
  for (let i = part; i < seeds; i += threads) {
    if (!METER_ALONE) plan.push(new Cleaner(FIRST + 17 * i, READS).live("plan"));
    meter.push(new Cleaner(FIRST + 17 * i, READS).live("meter"));
  }
  parentPort!.postMessage({ plan, meter } satisfies Both);
}
