import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { isMainThread, parentPort, Worker, workerData } from "node:worker_threads";
import { addedYear, Cleaner, emptyYear, type Year } from "./year";

/** A year of work, day by day, in invented worlds: `bench/run weeks [seeds]`. */
const SEEDS = Number(process.argv[2] ?? 200);
const FIRST = 31_000;

interface Both {
  readonly plan: Year;
  readonly meter: Year;
}

const percent = (part: number, whole: number) => (whole === 0 ? "–" : `${((100 * part) / whole).toFixed(1)} %`);

/** Whether a share could be a half by the luck of so many draws, 99 % of the time. */
const isEven = (part: number, whole: number) => Math.abs(part / whole - 0.5) <= (2.576 * 0.5) / Math.sqrt(whole);

async function main(): Promise<void> {
  const threads = availableParallelism();
  const parts = await Promise.all(
    Array.from(
      { length: threads },
      (_, part) =>
        new Promise<Both>((resolve, reject) => {
          const worker = new Worker(fileURLToPath(import.meta.url), { workerData: { part, threads, seeds: SEEDS } });
          worker.once("message", resolve);
          worker.once("error", reject);
        }),
    ),
  );
  const [plan, meter] = (["plan", "meter"] as const).map((way) =>
    parts.reduce((sum, each) => addedYear(sum, each[way]), emptyYear()),
  ) as [Year, Year];
  console.log(`${SEEDS} years of an invented window cleaner, day by day, fixed seeds`);
  const line = (name: string, { dryDays, bookedDays, refills, unused }: Year) =>
    console.log(
      `${name}: ${percent(dryDays, bookedDays)} of ${bookedDays} booked days run dry; ${(refills / SEEDS).toFixed(1)} refills a year, ${percent(unused, refills)} of a charge thrown away`,
    );
  line("plan followed", plan);
  line("changed when the meter says so", meter);
  const { dated, early, onTheDay, inside } = plan;
  const halved = early + onTheDay / 2;
  console.log(
    `dates on day 4 and 9 of a charge: likely too early ${percent(halved, dated)} of ${dated} (even within chance: ${isEven(halved, dated) ? "yes" : "no"}); true end between early and late ${percent(inside, dated)}`,
  );
}

if (isMainThread) await main();
else {
  const { part, threads, seeds } = workerData as { part: number; threads: number; seeds: number };
  let [plan, meter] = [emptyYear(), emptyYear()];
  for (let i = part; i < seeds; i += threads) {
    plan = addedYear(plan, new Cleaner(FIRST + 17 * i).live("plan"));
    meter = addedYear(meter, new Cleaner(FIRST + 17 * i).live("meter"));
  }
  parentPort!.postMessage({ plan, meter } satisfies Both);
}
