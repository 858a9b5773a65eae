/** What may go wrong at a step, in the words of who sees it, and what helps, likeliest first. */
export interface Trouble {
  readonly seen: string;
  readonly help: readonly string[];
}

export const TROUBLES = {
  "still-runs": {
    seen: "It still runs",
    help: [
      "The feed is not shut: close its tap too, not only the valve of the rig.",
      "A pump still presses: switch it off and open a line behind it.",
      "Wait with the outlet open until nothing comes; loosen nothing before.",
    ],
  },
  "too-heavy": {
    seen: "Too heavy",
    help: [
      "Let it drain first, outlet down: a third of the weight is water.",
      "Lay it on its side where it stands and work from there.",
      "Get a second pair of hands. Your back is worth more than the beads.",
    ],
  },
  "will-not-turn": {
    seen: "It won't turn",
    help: [
      "Look once more whether the pressure is down.",
      "Anticlockwise, seen from above. Start it with the wrench, then by hand.",
      "Warm water over the head loosens a dry O-ring. Never strike it, never hold the vessel by its fittings.",
    ],
  },
  "riser-stuck": {
    seen: "The riser is stuck",
    help: [
      "Do not strain the tube or its slotted foot: empty beads around it first.",
      "Run water into the vessel: in a slurry it comes by itself.",
    ],
  },
  "beads-stick": {
    seen: "They won't come out",
    help: [
      "Run water in until they float, turn it over, shake.",
      "A hose into the bottom lifts them; the sieve bag stays over the mouth.",
      "Never a stick that could break the strainer.",
    ],
  },
  "beads-on-floor": {
    seen: "Beads on the floor",
    help: ["Stop. Sweep or wet-vacuum all of them now.", "None down the drain: into the bag with the spent ones."],
  },
  "cracked-strainer": {
    seen: "The strainer is cracked",
    help: [
      "Do not fill it: every crack lets beads into your hose and brush.",
      "A new strainer or riser first. Close this refill as it is and go on when the part is here.",
    ],
  },
  bridges: {
    seen: "It bridges in the funnel",
    help: ["A little at a time. Tap the funnel, or wet it with pure water.", "A wider funnel, or the scoop."],
  },
  "will-not-go-in": {
    seen: "It won't all go in",
    help: [
      "Tap the wall: settled beads take less room.",
      "Stop at the mark, whatever the bag holds. What is left goes back, closed air-tight.",
      "Was everything emptied? Old beads below take the room of the new.",
    ],
  },
  "beads-in-tube": {
    seen: "Beads in the tube",
    help: [
      "Stop and take the riser out: beads in it go straight to your brush.",
      "Rinse it through from its foot, plug its top, set it in again and fill on.",
    ],
  },
  "looks-dry": {
    seen: "The resin looks dry",
    help: [
      "Not into a vessel: dry beads swell when wetted and can burst it.",
      "Wet it outside, loosely, in an open bucket for a day, or discard it.",
    ],
  },
  "no-pure-water": {
    seen: "No pure water",
    help: [
      "Take what the old charge still gives before you open it, or buy some.",
      "Tap water works, and spends some of the new beads already: the loss stands beside it.",
    ],
  },
  "riser-will-not-sink": {
    seen: "The riser won't go down",
    help: [
      "More pure water: it must stand above the beads, so that they part.",
      "Turn it gently to and fro. Never hammer it: its foot is slotted.",
      "Still not: take two scoops out and try again.",
    ],
  },
  "gap-below": {
    seen: "A clear gap below",
    help: ["It was loose. Open it again, fill up, tap until it stops sinking, and close it packed full."],
  },
  "seal-nicked": {
    seen: "The seal is nicked",
    help: ["Take the spare, grease it. A nicked seal lets tap water go round the beads.", "No spare: do not close it."],
  },
  "part-missing": {
    seen: "A part is missing",
    help: [
      "Look in the dish, the sieve bag and on the floor before you close anything.",
      "A missing O-ring or spacer makes water go round the beads: take a spare, or wait.",
    ],
  },
  crossed: {
    seen: "The head fights",
    help: [
      "Undo it: it is crossed. Wipe beads out of both threads.",
      "Set it square over the riser, turn it back until it drops into the thread, then on by hand.",
    ],
  },
  leak: {
    seen: "It drips",
    help: [
      "Shut the feed, let the pressure down. Do not tighten under pressure.",
      "Take the seal out: beads on the seat, a nick, or no grease. Wipe, grease, set it in again.",
      "A crack in vessel or head: out of use.",
    ],
  },
  cloudy: {
    seen: "Cloudy or tinted",
    help: [
      "Air: run another minute until it is clear.",
      "Fresh resin may tint the first litres: let them go to drain.",
      "Still cloudy: broken beads from frost or drying. Do not use it on glass.",
    ],
  },
  "beads-in-outlet": {
    seen: "Beads in the hose",
    help: [
      "Shut it and catch them: none may reach the brush or the tank.",
      "The riser was not plugged while filling, its foot is cracked, or water ran backwards without a basket on top.",
      "Open it again, rinse riser and strainers, and look for the crack.",
    ],
  },
  "reads-high-falls": {
    seen: "Above the mark, falling",
    help: ["Rinse-up, or air: run two more minutes and read again."],
  },
  "reads-share": {
    seen: "Steady, a share of the feed",
    help: [
      "The bypass valve is not shut.",
      "The riser's O-ring is missing or nicked.",
      "The head is not seated: water goes round the bed.",
    ],
  },
  "reads-feed": {
    seen: "Near the feed",
    help: [
      "Softener beads in place of mixed bed: hardness falls, TDS does not.",
      "In and out crossed, with a cartridge that does not seal.",
      "No resin in the stage.",
      "The probe stands in the wrong line.",
    ],
  },
  "rises-within-days": {
    seen: "Zero, then rises within days",
    help: ["Under-filled and lying on its side.", "Packed loosely: water finds gaps.", "Old, dry resin."],
  },
  "housing-leaks": {
    seen: "The housing drips",
    help: [
      "Shut it, let the pressure down, open it: is the O-ring in its groove, clean and greased?",
      "Snug, not more: a cracked bowl comes from force.",
    ],
  },
  "does-not-seal": {
    seen: "It sits loose",
    help: [
      "A flat seal is missing at one end, or doubled: both ends need one.",
      "Centre it on both knife edges before the bowl goes up.",
    ],
  },
  "still-grey": {
    seen: "Still grey",
    help: ["Carbon dust: rinse on to drain. The membrane does not forgive it."],
  },
  "membrane-tight": {
    seen: "It won't slide in",
    help: [
      "Wet its O-rings with pure water or silicone grease, never with oil.",
      "Tube end first, straight, with a turn; it seats with a push.",
    ],
  },
} as const satisfies Readonly<Record<string, Trouble>>;

export type TroubleName = keyof typeof TROUBLES;

/** Share of the feed from which a first reading is near the feed, and from which a share of it goes round the bed. */
const NEAR_FEED = 0.6;

/**
 * What a first reading after a refill may mean, by its size: that it falls is seen by reading again.
 *
 * @param output µS/cm @param watch the vessel's watch point, µS/cm @param feed µS/cm, where it is known
 * @returns nothing where it is below the watch point
 * @example firstReadingTroubles(260, 12, 320) // ["reads-feed"]
 */
export function firstReadingTroubles(output: number, watch: number, feed: number | undefined): readonly TroubleName[] {
  if (output <= watch) return [];
  if (feed !== undefined && output >= NEAR_FEED * feed) return ["reads-feed"];
  return ["reads-high-falls", "reads-share"];
}
