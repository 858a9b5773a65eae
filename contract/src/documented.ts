import { PRACTICE_ASSUMPTIONS } from "@winter-bead/core/src/sizing";
import type { ComputeName } from "./compute";

/** What the OpenAPI document says of a calculation beside its schemas. */
export interface Documented {
  /** What goes in and comes out, what is assumed, and where it is from. */
  readonly about: string;
  /** A request that is answered. */
  readonly example: object;
}

const tapWater = (value: number) => ({ reading: { value, scale: "nacl" }, ph: 7.3, alkalinity: 110, silica: 6 });
const waters = { low: tapWater(140), typical: tapWater(160), high: tapWater(190) };
const tank = {
  name: "Tank, 28 L",
  kind: "screw-head-tank",
  grossVolume: 28,
  diameter: 230,
  emptyWeight: 9,
  fillFraction: 0.85,
};
const work = {
  demand: {
    items: [
      { by: "jobs", name: "maintenance cleans", perWeek: 20, litresEach: 60, quality: "timed" },
      { by: "jobs", name: "first cleans", perWeek: 2, litresEach: 110, quality: "guessed" },
    ],
    season: [0.7, 0.8, 1, 1, 1.1, 1.2, 1.2, 1.1, 1.1, 1, 0.9, 0.9],
  },
  waters,
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  liftLimit: 25,
  until: "meter",
  priority: "money",
};
const behindNothing = { vessel: tank, train: "single", grade: "virgin", supply: "bag" };
const option = { ...behindNothing, before: "nothing" };
const bed = { volume: 24, diameter: 230, flow: 3 };
const weekday = { mean: 250, sd: 60 };
const restDay = { mean: 0, sd: 0 };

const uuid = (last: number) => `0194a000-0000-7000-8000-${String(last).padStart(12, "0")}`;
const [leading, guarding] = [uuid(8), uuid(9)];
const logged = (day: number, total: number, lead: number) => ({
  id: uuid(20 + day),
  rigId: uuid(1),
  tapId: uuid(2),
  at: `2027-03-0${day}T16:30:00Z`,
  water: { by: "total", total },
  readings: [
    { id: uuid(40 + day), point: "output", stageId: leading, meterId: uuid(4), value: lead },
    { id: uuid(60 + day), point: "output", stageId: guarding, meterId: uuid(4), value: 0 },
  ],
});
const bottle = (id: number, name: string) => ({
  ...{ id: uuid(id), name, kind: "screw-head-tank", grossVolume: 28, diameter: 230, fillFraction: 0.85 },
  marks: { watch: 6, limit: 10, hard: 20, scale: "nacl" },
});
const filled = (id: number, vessel: number) => ({
  ...{ id: uuid(id), vesselId: uuid(vessel), rigId: uuid(1), grade: "virgin", resinLitres: 24, packing: "settled" },
  ...{ filledAt: "2027-03-01T07:00:00Z", startTotal: 0 },
});
const rigRecords = {
  now: "2027-03-05T18:00:00Z",
  timeZone: "Europe/Berlin",
  rig: {
    id: uuid(1),
    name: "Barrow",
    use: "glass",
    tapId: uuid(2),
    flow: 3,
    stages: [
      { id: uuid(7), kind: "sediment", microns: 5 },
      { id: leading, kind: "resin" },
      { id: guarding, kind: "resin" },
    ],
    jobName: "house",
    litresPerJob: 50,
  },
  vessels: [bottle(5, "First tank"), bottle(10, "Second tank")],
  arrangements: [
    {
      ...{ id: uuid(11), rigId: uuid(1), at: "2027-03-01T07:00:00Z", did: "hung-in" },
      places: [
        { stageId: leading, vesselId: uuid(5) },
        { stageId: guarding, vesselId: uuid(10) },
      ],
    },
  ],
  taps: [{ id: uuid(2), siteId: uuid(3), name: "Yard", low: 140, typical: 160, high: 190, scale: "nacl" }],
  meters: [{ id: uuid(4), name: "Hand meter", scale: "nacl", compensated: true }],
  charges: [filled(6, 5), filled(12, 10)],
  visits: [logged(1, 210, 0), logged(2, 400, 0), logged(4, 640, 3)],
};

const OF_SIZING =
  "Litres and money are for a usual year of the work; three figures are the low, the typical and the high one, and the ends are corners (most work with the hardest water, least work with the softest). Prices are in your own money; left out, dated planning assumptions stand in.";

/** Every calculation, with a request to begin from. */
export const DOCUMENTED: Readonly<Record<ComputeName, Documented>> = {
  water: {
    about:
      "Conductivity from a reading and its scale, or from an analysis; load from conductivity (Standard Methods 1030 E) or from the ions, carbon dioxide from pH and alkalinity (Plummer and Busenberg 1982). ec25 in µS/cm at 25 °C, loads in meq/L, asCaCO3 and co2 in mg/L, imbalance as a share.",
    example: tapWater(160),
  },
  capacity: {
    about:
      "A grade, a trade constant, a maker's rating or both sides in eq per litre of mixed resin, as all of these. constant in US gal·ppm per ft³ on the sodium-chloride scale, kilograins as CaCO3 per ft³.",
    example: { grade: "virgin" },
  },
  bed: {
    about:
      "Transfer units after Wilson and Geankoplis 1966, pressure loss after Ergun 1952. depth in m, velocity in m/s, pressureLoss in kPa.",
    example: bed,
  },
  life: {
    about:
      "Constant pattern under film control (Hall, Eagleton, Acrivos and Vermeulen 1966), until the first leak of anything that the beads must hold. litres at the tap, gallons US; throughput is the share of the stoichiometric litres; where the limit can't be reached, litres is 0 and a reason stands.",
    example: { water: tapWater(160), capacity: { grade: "virgin" }, bed, limit: work.limit },
  },
  "life-range": {
    about:
      "As life, for a low, a typical and a high feed; typical is the typical feed's own answer, low and high are the least and the greatest of the three.",
    example: { waters, capacity: { grade: "virgin" }, bed, limit: work.limit },
  },
  degas: {
    about:
      "First-order gas transfer (Lewis and Whitman 1924). co2 in mg/L, saved as the share of the carbon dioxide that is gone; air (0.6 mg/L) may be given, and either rate (0.5 per h, a planning assumption) or what the pump does: airFlow (L/min), volume (L) and temperature (°C, 15), by Henry's constant of Plummer and Busenberg 1982.",
    example: { co2: 12.9, hours: 8 },
  },
  composition: {
    about: "Ions in mmol/L to pH and conductivity by charge balance (Appelo 2010); ppm on the sodium-chloride scale.",
    example: { na: 1, cl: 0.6, inorganicCarbon: 0.5 },
  },
  column: {
    about:
      "Two exchangers in each bed, film control, constant separation factors (Helfferich 1962). Litres to the limit, to a silica and an ammonia mark and between them; a mark that is not reached within `until` (1.6 of the stoichiometric litres) is absent. product holds about 200 rows, profile ten.",
    example: {
      feed: { na: 0.9, mg: 0.6, ca: 2, cl: 0.8, so4: 0.6, hco3: 2.2, sio2: 0.1 },
      stages: [{ kind: "mixed", capacity: { grade: "virgin" }, bed }],
      cells: 60,
      limit: work.limit,
      marks: { silica: 1 },
    },
  },
  membrane: {
    about:
      "Flow and rejection from the maker's own test, freed of temperature and pressure (ASTM D4516). Pressures in kPa, flow in L/min, wasteRatio in L of waste per L made; carbon dioxide passes.",
    example: {
      feed: { ec25: 420, temperature: 14, pressure: 380, co2: 9 },
      recovery: 0.25,
      rated: { flow: 0.26, rejection: 0.97, pressure: 450, ec25: 500, recovery: 0.15 },
    },
  },
  creep: {
    about:
      "An exponential fit to the product readings after a start, by least squares. initial and floor in µS/cm, tau and divertSeconds in s, loadPerStart in meq; divertSeconds only with both prices.",
    example: {
      readings: [
        { seconds: 0, value: 60 },
        { seconds: 30, value: 38 },
        { seconds: 60, value: 25 },
        { seconds: 120, value: 13 },
        { seconds: 240, value: 8 },
      ],
      scale: "nacl",
      flow: 0.2,
    },
  },
  compare: {
    about:
      "The difference of two charges split into what each cause did, the effects adding up to the difference, in jobs.",
    example: {
      first: { capacity: 0.4, resin: 24, load: 3.2, waterPerJob: 60 },
      second: { capacity: 0.36, resin: 24, load: 3.6, waterPerJob: 64 },
    },
  },
  "own-capacity": {
    about:
      "What one's own charges held, those changed early counted as at least so much (censored). eq per litre of mixed resin; low and high are 10 and 90 %.",
    example: {
      grade: "virgin",
      charges: [
        { capacity: 0.41, ended: "limit", water: "metered" },
        { capacity: 0.36, ended: "early", water: "guessed" },
      ],
    },
  },
  size: {
    about: `Every way to do the work with generic vessels and your own, ranked by \`priority\` (default money); those that can't do it stand last with their reasons. ${OF_SIZING} \`until\` says when a charge counts as used up: at the first leak of anything (the default), or when a meter shows the limit; \`lives\` has both. liftLimit is 25 kg unless given. Vessels of your own go into \`own\`, a membrane or a barrel that is not as assumed into \`before\`, and the flow through the resin where it fills a tank of yours ahead of the work.`,
    example: work,
  },
  crossing: {
    about: `Yearly cost of resin alone and behind the stage over feeds from 30 to 3,000 µS/cm; \`paysFrom\` is where they meet, with the spread of demand and of what resin holds, absent where they don't. Root finding after Dowell and Jarratt 1971. ${OF_SIZING}`,
    example: { work, option: behindNothing },
  },
  worth: {
    about: `A year with and without each addition that the option hasn't got and that can do the work; \`change\` adds up from its parts, below 0 is saved. ${OF_SIZING}`,
    example: { work, option: { ...option, before: "membrane" } },
  },
  claims: {
    about:
      "Each statement scaled to your feed by the salt a meter sees (litres), with carbon dioxide and silica counted (litresToLeak), as the capacity it takes for granted in eq per litre of resin and as a trade constant. More than the beads' chemistry holds is `tooHigh`, and `credible` is then what they hold. Best buy first.",
    example: {
      waters,
      claims: [
        { name: "A label", litres: 4000, ppm: 50, scale: "nacl", resinLitres: 7, price: 95 },
        { name: "One without a feed", litres: 9000, scale: "nacl", resinLitres: 12 },
      ],
    },
  },
  habits: {
    about: `What each habit is worth a year to this user, the difference of two years; below 0 it costs more than it saves. ${OF_SIZING}`,
    example: {
      work,
      option,
      practice: { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4 },
    },
  },
  depletion: {
    about:
      "Simulated futures over your own weekdays, Monday first: the dates by which one, five and nine in ten of them are used up. capacityLeft in meq, daily in L, load in meq/L. The same seed gives the same dates. A future ends at five years: a late date there means then or later.",
    example: {
      capacityLeft: { median: 5200, low: 4100, high: 6300 },
      daily: [weekday, weekday, weekday, weekday, weekday, restDay, restDay],
      load: { low: 2.9, typical: 3.3, high: 3.9 },
      start: "2027-03-01",
    },
  },
  standing: {
    about:
      "Records as the records API gives them; taken-back ones are left out. One belief over what the resin holds, how wide its front is and what goes round the beads starts at the grade, is taught by ended charges and moved by output readings (mixture likelihood, Jaynes 2003): treated in L, capacity of this charge in eq/L, left to the mark in leftTo in L, leak until anything leaks where the alkalinity is known, dates by simulated futures at the use of the log (Metropolis and Ulam 1949). Low, typical and high are the 10, 50 and 90 % points. jobsPerWeek is the stated week, bookings replace the expected use of their day. Vessels stand in the order of the flow, as arrangements say of their moment; a bed behind another is fed by what left that one, and a reading with a stageId weighs on the last bed up to that stage. train is the verdict of the whole: of its last bed, and lead-spent where one before it is spent while that one still guards. A vessel without a charge in use is left out. Of a charge with partUsed the capacity is what it still held when it was taken over; it teaches nothing, nor does one that is leftOut.",
    example: rigRecords,
  },
  "train-worth": {
    about:
      "Records as for standing, and prices in your own money (dated planning assumptions where left out). For a train of two or more mixed beds: litres from now until its last bed reaches its mark, the act and nothing more being done, days at the usual water, charges put in, money, and what the emptied resin could still have treated. run-lead also tells when the lead is near exhausted and the chance that the train's mark comes before. No acts for a train of one, nor for cation and anion beds, which stay where they stand.",
    example: rigRecords,
  },
  refill: {
    about:
      "Litres to put in, scoops, pure water for wetting and floating, mm from the rim to the mark, and kilograms to lift, by name with their units; twoPeople where one pair of hands is not enough. Bags are taken in the order they are given; missing in L.",
    example: {
      vessel: { grossVolume: 28, diameter: 230, emptyWeight: 9 },
      ways: { fillTo: 0.85, scoop: 0.8 },
      inIt: 23.8,
      bags: [
        { id: "opened", litres: 6 },
        { id: "new", litres: 25 },
      ],
    },
  },
  practise: {
    about:
      "A life as for life, and mistakes by name: overfilled, unplugged, loose, tap-water, beads-in-thread, seal-forgotten, crossed, on-its-side, no-rinse. Litres to the limit as a meter shows it (until: leak for what harms an aquarium), by the planner's curve, firstReading after the rinse on the limit's scale, aboveLimit in L that reach the work, money of resin, time and jobs done again. 0 litres where what goes round the beads alone is above the limit.",
    example: {
      life: { water: tapWater(160), capacity: { grade: "virgin" }, bed, limit: { value: 10, scale: "nacl" } },
      kind: "screw-head-tank",
      mistakes: ["beads-in-thread", "no-rinse"],
      ...{ litresPerJob: 60, resinPrice: 9, wage: 20, spoiltJob: 30, currency: "EUR" },
    },
  },
};
