import { performance } from "node:perf_hooks";
import { depletion, life, lifeRange, livesBySchool, unwrap, type LifeInput } from "../core/src/index";

/** A fixed loop of floating-point work, to compare machines and moments: 1e6 exponentials. */
function referenceLoop(): number {
  let sum = 0;
  for (let i = 0; i < 1_000_000; i += 1) sum += Math.exp(-(i % 1000) / 1000);
  return sum;
}

/** Median milliseconds of a call, over rounds that alternate with the reference loop. */
function measure(name: string, calls: number, work: () => unknown): void {
  for (let i = 0; i < calls / 5; i += 1) work();
  referenceLoop();
  const ratios: number[] = [];
  const times: number[] = [];
  for (let round = 0; round < 9; round += 1) {
    let start = performance.now();
    referenceLoop();
    const reference = performance.now() - start;
    start = performance.now();
    for (let i = 0; i < calls; i += 1) work();
    const each = (performance.now() - start) / calls;
    times.push(each);
    ratios.push(each / reference);
  }
  const median = (values: number[]) => values.sort((a, b) => a - b)[4]!;
  console.log(
    `${name}: ${(1000 * median(times)).toFixed(1)} µs a call, ${median(ratios).toFixed(4)} of the reference loop (1e6 exponentials)`,
  );
}

const input: LifeInput = {
  water: { reading: { value: 163, scale: "nacl" } },
  capacity: { grade: "virgin" },
  bed: { volume: 10.4, diameter: 165, flow: 3.4 },
  limit: { value: 8, scale: "nacl" },
};
const water = (value: number) => ({ reading: { value, scale: "nacl" as const } });
const { water: _water, ...rest } = input;
const waters = { low: water(130), typical: water(163), high: water(210) };
const week = [150, 150, 150, 150, 150, 0, 0].map((mean) => ({ mean, sd: mean / 6 }));

measure("life, with its curve of 101 points", 200, () => unwrap(life(input)));
measure("life-range", 200, () => unwrap(lifeRange({ ...rest, waters })));
measure("lives by school (what a digit typed on Size costs)", 100, () =>
  unwrap(livesBySchool({ ...input, waters, constant: 200_000 })),
);
measure("depletion, 4,000 futures", 5, () =>
  unwrap(
    depletion({
      capacityLeft: { low: 16100, median: 17500, high: 19000 },
      daily: week,
      load: { low: 3.4, typical: 3.5, high: 3.6 },
      start: "2027-03-01",
      seed: 7,
    }),
  ),
);
