import {
  scaleFactor,
  standing,
  unwrap,
  type Meter,
  type Rig,
  type StandingInput,
  type Tap,
  type Vessel,
} from "../core/src/index";
import { METERS, RIGS, TAPS, type DemoRig } from "../demo/src/places";
import { tellRig, type RigStory } from "../demo/src/story";

/** How often the litres that really came lay inside the range that was shown, over many invented years. */
const NOW = Date.UTC(2027, 2, 17, 15);
const DAY = 86_400_000;
const YEAR = 400 * DAY;
const STORIES = 4;
const ASKED_AT = [0.3, 0.6, 0.85, 0.95];

const tapIds = new Map(TAPS.map(({ tap }) => [tap.name, tap.name]));
const taps = new Map(TAPS.map(({ tap }): [string, Tap] => [tap.name, { id: tap.name, siteId: "site", ...tap }]));
const meters = new Map(Object.entries(METERS).map(([id, meter]): [string, Meter] => [id, { id, ...meter }]));
const dateOf = (milliseconds: number) => new Date(milliseconds).toISOString().slice(0, 10);

interface Score {
  asked: number;
  inside: number;
  bias: number;
}

function factsUntil(demo: DemoRig, story: RigStory, charge: number, until: number): StandingInput {
  const vessel: Vessel = { id: "vessel", ...demo.vessel };
  const rig: Rig = {
    id: "rig",
    ...demo.rig,
    tapId: demo.taps[0]!.name,
    stages: [...demo.before, { kind: "resin", vesselId: "vessel" }],
  };
  const charges = story.charges
    .slice(0, charge + 1)
    .map((each, i) => (i === charge ? { ...each, ended: undefined } : each));
  return {
    rig,
    vessel,
    taps,
    meters,
    charges,
    visits: story.visits.filter((visit) => Date.parse(visit.at) <= until),
    now: until,
    today: dateOf(until),
    dateOf,
  };
}

/** Litres of a charge at which its output passed the limit for good, between two visits by the logarithm of the output. */
function litresAtLimit(demo: DemoRig, story: RigStory, charge: number): number | undefined {
  const limit = demo.vessel.marks.limit / scaleFactor(demo.vessel.marks.scale);
  const { outputs } = unwrap(standing(factsUntil(demo, story, charge, Date.parse(story.charges[charge]!.ended!.at))));
  let i = outputs.length;
  while (i > 0 && outputs[i - 1]!.ec25 >= limit) i -= 1;
  if (i === 0 || i === outputs.length) return undefined;
  const [before, after] = [outputs[i - 1]!, outputs[i]!];
  const low = Math.max(before.ec25, 0.5);
  return (
    before.litres + Math.max(0, Math.log(limit / low) / Math.log(after.ec25 / low)) * (after.litres - before.litres)
  );
}

function scoreCharge(score: Score, demo: DemoRig, story: RigStory, charge: number): void {
  const { filledAt, ended } = story.charges[charge]!;
  const end = ended && ended.why === "limit" ? litresAtLimit(demo, story, charge) : undefined;
  if (end === undefined) return;
  const visits = story.visits.filter((visit) => visit.at > filledAt && visit.at <= ended!.at);
  for (const share of ASKED_AT) {
    const asked = visits[Math.floor(visits.length * share) - 1];
    if (!asked) continue;
    const where = standing(factsUntil(demo, story, charge, Date.parse(asked.at)));
    if (!where.ok || where.value.leftTo !== "limit" || where.value.used.litres > end) continue;
    const left = end - where.value.used.litres;
    score.asked += 1;
    score.bias += where.value.left.typical / Math.max(end, 1) - left / Math.max(end, 1);
    if (left >= where.value.left.low && left <= where.value.left.high) score.inside += 1;
  }
}

for (const demo of RIGS) {
  const score: Score = { asked: 0, inside: 0, bias: 0 };
  for (let seed = 1; seed <= STORIES; seed += 1) {
    const story = tellRig(
      { ...demo, today: "early" },
      { rigId: "rig", vesselId: "vessel", tapIds, meterId: demo.meter },
      seed * 1000,
      NOW - YEAR,
      NOW,
    );
    for (let charge = 2; charge < story.charges.length; charge += 1) scoreCharge(score, demo, story, charge);
  }
  console.log(
    `${demo.rig.name}: the shown 10 to 90 % range held ${Math.round((100 * score.inside) / score.asked)} % of ${score.asked} times (aim 80 %); its middle was off by ${((100 * score.bias) / score.asked).toFixed(1)} % of a charge on average`,
  );
}
