/** One caution: a line where the hand could be hurt, and more for who asks. */
export interface Caution {
  readonly say: string;
  readonly more: string;
}

const SHEET = "The maker's safety data sheet has the last word.";

/** Every caution of a refill, by what it is of; each stands at the steps that name it. */
export const CAUTIONS = {
  pressure: {
    say: "Never undo a head under pressure.",
    more: "Shut the feed and open the outlet until nothing runs any more. A head or a housing that lets go under pressure flies.",
  },
  lift: {
    say: "Heavy when wet: hold it from below, lift with two or lay it down.",
    more: "Bend the knees, keep it close, let nobody stand below. Your local rules for lifting by hand have the last word.",
  },
  "rolling-beads": {
    say: "Beads on a floor roll like ball bearings: sweep or wet-vacuum at once.",
    more: "Spread a sheet before you open anything, and stay off spilled beads, wet or dry.",
  },
  drains: {
    say: "Beads are plastic: none into drains, soil or water. Let water out through a mesh or woven bag.",
    more: "A bag whose mesh is finer than the beads (under 0.4 mm) lets the water go and holds them all.",
  },
  "gloves-and-eyes": {
    say: "Gloves and eye protection on.",
    more: `Fresh resin is weakly to strongly acidic or alkaline while it is wet. ${SHEET}`,
  },
  "wash-hands": {
    say: "Wash your hands before you touch eyes, nose or mouth.",
    more: `First aid and exposure: the safety data sheet and a doctor, not this program. ${SHEET}`,
  },
  bystanders: {
    say: "Keep children and animals away until everything is swept and closed.",
    more: "Beads look like sweets, and what is swallowed or in an eye is for a doctor: take the safety data sheet along.",
  },
  "spent-resin": {
    say: "Spent resin is usually ordinary waste, bagged. Ask the local authority or the supplier.",
    more: "Resin that treated unusual water may not be. What the law says where you are, this program does not know.",
  },
  "not-drinking-water": {
    say: "Not drinking water.",
    more: "Deionized water is no drinking-water product, and it is aggressive to some metals.",
  },
  copper: {
    say: "No copper, brass or zinc behind the resin where animals live in the water.",
    more: "Deionized water dissolves metals that tap water leaves alone; shrimps and corals die of a little copper.",
  },
  backflow: {
    say: "The tap needs the backflow protection that your local code asks for.",
    more: "Plumbing into a building is a licensed plumber's work. Local codes and authorities have the last word.",
  },
  "dried-resin": {
    say: "Resin that dried out swells when it is wetted, and can burst a full vessel: wet it outside, loosely, or discard it.",
    more: "Its beads crack too. Moist resin clumps like wet sand; dry resin runs like fine gravel.",
  },
  frost: {
    say: "Do not let wet resin freeze: the vessel cracks, and the beads.",
    more: "Bring it in below 5 °C, or drain it for the night and keep the beads moist and closed.",
  },
  heat: {
    say: "Keep resin out of the heat: 40 °C in a parked van already ages it.",
    more: "Above 60 °C the anion beads are harmed for good.",
  },
  "closed-in-the-sun": {
    say: "Never leave a full vessel capped at both ends in the sun.",
    more: "Water that warms up in a closed vessel has nowhere to go: leave one side open. Mind its greatest pressure.",
  },
  "stagnant-water": {
    say: "After days of standing warm, flush before you spray.",
    more: "Deionized water has no chlorine left, and stagnant warm water can carry Legionella: follow local guidance.",
  },
  strap: {
    say: "Strap it in the vehicle, upright.",
    more: "Thirty kilograms that come loose at a brake are a projectile. On its side a gap opens above the beads.",
  },
  "float-valve": {
    say: "Filling that nobody watches needs a float shut-off that was tested.",
    more: "Let it fill once beside you and lift the float by hand: the water must stop.",
  },
  "wet-floor": {
    say: "Water and electricity: pumps and plugs off, and dry, before a housing is opened.",
    more: "Open a housing over a tub: it holds a litre or two.",
  },
  "slimy-cartridge": {
    say: "A used cartridge may be slimy: gloves, and do not breathe its spray.",
    more: "Bag it before you carry it. Warm standing water can carry Legionella: follow local guidance.",
  },
} as const satisfies Readonly<Record<string, Caution>>;

export type CautionName = keyof typeof CAUTIONS;
