import { flowsUp } from "../vessel/vessel.record";
import { step, type GuideSetting, type GuideStep, type Scene } from "./step";

const when = (holds: boolean, ...steps: readonly GuideStep[]): readonly GuideStep[] => (holds ? steps : []);

const SPENT = { are: "spent", level: 1 } as const;
const FRESH = { are: "fresh", level: 1 } as const;

/** What every scene of this vessel shares. */
const base = ({ kind, ways }: GuideSetting): Partial<Scene> => ({
  riser: flowsUp(kind) || ways.riser === "none" ? "none" : "in",
});

const hasRiser = ({ ways }: GuideSetting) => ways.riser !== "none";
const isStand = ({ ways }: GuideSetting) => ways.mount !== "alone";

/** Tools for a vessel, counted before and after. */
export function vesselTools({ ways, kind, guided }: GuideSetting): readonly string[] {
  const filled = guided === "refill" || guided === "early" || guided === "emergency" || guided === "top-up";
  if (!filled) return ["Gloves", "Caps for both ends", "Tape for the label"];
  return [
    "Gloves and glasses",
    "Something to open the bag",
    ways.fill === "scoop" ? "Scoop and funnel" : "Funnel",
    "Poker",
    ...(guided === "top-up" ? [] : ["Sieve bag"]),
    "Silicone grease",
    "Spare seals",
    ...(kind === "cartridge" ? [] : ["Wrench"]),
    ...(ways.riser === "first" ? ["Plug for the riser"] : []),
    ...(ways.empty === "hose" && guided !== "top-up" ? ["Hose"] : []),
    "Bucket of pure water",
    ...(guided === "emergency" ? ["Sheet for the ground", "Bin bag to take the beads home"] : []),
  ];
}

/** Look, isolate, let the pressure down, take it off. */
function takeOff(setting: GuideSetting): readonly GuideStep[] {
  const { guided, ways, isEmpty } = setting;
  const scene = { ...base(setting), ...(isEmpty ? {} : { beads: SPENT, water: 1 }), heavy: !isEmpty };
  return [
    step(
      {
        id: "ready",
        title: "Lay it all at hand",
        short: "lay it at hand",
        how: [
          "Everything within reach before anything is opened.",
          guided === "emergency"
            ? "On flat ground, away from the gully, the sheet below: every bead goes home with you."
            : "On flat ground, away from a drain.",
        ],
        done: "At hand",
        asks: ["tools"],
        cautions: ["gloves-and-eyes", "bystanders", "drains"],
      },
      { ...scene, hoses: "connected" },
    ),
    ...when(
      !isEmpty,
      step(
        {
          id: "last-reading",
          title: "Read it a last time",
          short: "read it a last time",
          how: [
            "After a minute of flow: the output, and the water meter.",
            guided === "emergency"
              ? "Catch the last pure water in the bucket: you will need it for wetting."
              : "It says why this charge ends.",
          ],
          done: "Read",
          asks: ["last-reading"],
          cautions: ["not-drinking-water"],
        },
        { ...scene, hoses: "connected", waterGoes: "through", tool: "meter", look: ["outlet"] },
      ),
    ),
    step(
      {
        id: "pressure-down",
        title: "Shut the feed, open the outlet",
        short: "let the pressure down",
        how: ["Close the feed. Leave the outlet open until nothing runs any more."],
        done: "Nothing runs",
        check: "Does nothing run any more?",
        troubles: ["still-runs"],
        cautions: ["pressure", "closed-in-the-sun"],
      },
      { ...scene, hoses: "connected", waterGoes: "out", look: ["inlet", "outlet"] },
    ),
    step(
      {
        id: "disconnect",
        title: isStand(setting) ? "Loosen all while it stands, then take one" : "Take the hoses off, move it",
        short: "take it off",
        how: isStand(setting)
          ? [
              "Loosen every canister while the stand holds it, and hold it yourself.",
              "Then one at a time. The small spacers between canister and stand go into the dish.",
              ...(ways.mount === "lead-lag" ? ["Only the lead is emptied: the lag takes its place."] : []),
            ]
          : ["Hoses off, both ends open. Carry it to where you work."],
        done: "Taken off",
        amounts: ["wet-weight"],
        cautions: ["lift"],
        troubles: ["too-heavy"],
        ways: isStand(setting) ? ["mount"] : setting.kind === "cartridge" ? ["mount"] : [],
      },
      { ...scene, waterGoes: "none", look: ["base"] },
    ),
  ];
}

/** Open it, empty it, clean it. */
function emptyIt(setting: GuideSetting): readonly GuideStep[] {
  const { kind, ways, isEmpty } = setting;
  const scene = base(setting);
  const spent = isEmpty ? {} : { beads: SPENT };
  const comesWithHead = ways.riser === "with-head";
  return [
    ...when(
      !isEmpty && ways.drain === "hours",
      step(
        {
          id: "drain",
          title: "Let it drain",
          short: "let it drain",
          how: ["Outlet down, the other end open for air. The water runs out, the beads stay."],
          done: "Drained",
          timer: "drain",
          amounts: ["drained-weight"],
          ways: ["drain"],
          cautions: ["frost", "dried-resin"],
        },
        { ...scene, ...spent, waterGoes: "drains", look: ["outlet"] },
      ),
    ),
    step(
      {
        id: "open",
        title: kind === "cartridge" ? "Take the cap off" : "Brace it, open the head",
        short: "open it",
        how: [
          kind === "cartridge"
            ? "Hold it upright, unscrew the cap, lift the pad off the beads."
            : "So that it cannot turn. Anticlockwise; the wrench only to start it.",
          ...(comesWithHead ? ["The riser lifts out with the head: straight up, gently."] : []),
        ],
        done: "Open",
        cautions: ["pressure", "gloves-and-eyes"],
        troubles: ["will-not-turn"],
        ...(ways.drain === "wet" && !isEmpty ? { ways: ["drain"] } : {}),
      },
      {
        ...scene,
        ...spent,
        head: "loose",
        ...(kind === "cartridge" ? {} : ({ tool: "wrench" } as const)),
        look: ["thread"],
      },
    ),
    step(
      {
        id: "parts",
        title: "Count the loose parts",
        short: "count the parts",
        how: [
          kind === "inner-seal-bottle"
            ? "Cap, inner seal, spacers: lay them down in the order they come off. They go back in reverse."
            : kind === "cartridge"
              ? "Cap, pad, O-ring, spacers: all into one dish."
              : "Head, O-rings, spacers: all into one dish.",
        ],
        done: "Counted",
        asks: ["parts"],
        troubles: ["seal-nicked"],
      },
      { ...scene, ...spent, head: "off", tool: "dish", look: ["seal"] },
    ),
    ...when(!isEmpty, ...emptySteps(setting)),
    ...when(
      isEmpty,
      step(
        {
          id: "rinse",
          title: "Rinse the vessel",
          short: "rinse it",
          how: ["Dust and swarf out. Look at the strainer: no crack, nothing in its slots."],
          done: "Clean",
          check: "Is the strainer whole?",
          troubles: ["cracked-strainer"],
        },
        { ...scene, head: "off", riser: hasRiser(setting) ? "out" : "none", look: ["riser-foot"] },
      ),
    ),
  ];
}

function emptySteps(setting: GuideSetting): readonly GuideStep[] {
  const { ways, kind } = setting;
  const scene = base(setting);
  const laid = ways.position === "laid";
  return [
    ...when(
      hasRiser(setting),
      step(
        {
          id: "riser-out",
          title: ways.riser === "with-head" ? "Rinse the riser and its foot" : "Take the riser out, rinse it",
          short: "riser out",
          how: [
            "Never strain the tube or its slotted foot.",
            "Clean the strainers. Pour the free water off through the sieve bag.",
          ],
          done: "Out and clean",
          troubles: ["riser-stuck", "cracked-strainer"],
          cautions: ["drains"],
        },
        { ...scene, head: "off", riser: "pulled", beads: SPENT, look: ["riser-foot"], waterGoes: "out" },
      ),
    ),
    step(
      {
        id: "empty",
        title: ways.empty === "shake" ? "Turn it over, shake it empty" : "Flush the beads out",
        short: "empty it",
        how: [
          ways.empty === "shake"
            ? "Its mouth into the sieve bag, tied around it. Shake until nothing comes."
            : "Sieve bag tied over the mouth, the hose inside: the beads come with the water.",
          laid ? "Lay it down first; lift only its foot." : "Two hands, from below.",
        ],
        done: "Empty",
        amounts: ["spent-weight"],
        ways: ["empty", "position"],
        cautions: ["lift", "rolling-beads", "drains"],
        troubles: ["beads-stick", "beads-on-floor", "too-heavy"],
      },
      {
        ...scene,
        head: "off",
        riser: hasRiser(setting) ? "out" : "none",
        stance: ways.empty === "shake" ? "turned-over" : laid ? "laid" : "upright",
        beads: { are: "spent", level: 0.35 },
        beadsGo: "out",
        tool: ways.empty === "shake" ? "sieve-bag" : "hose",
        heavy: true,
      },
    ),
    step(
      {
        id: "rinse",
        title: kind === "cartridge" ? "Rinse the cartridge and its strainers" : "Rinse the vessel and its strainer",
        short: "rinse it",
        how: ["Not one old bead stays: it would lie where the water leaves.", "Look into the slots of the strainer."],
        done: "Clean",
        check: "No bead left, and the strainer whole?",
        troubles: ["cracked-strainer", "beads-stick"],
        cautions: ["drains"],
      },
      {
        ...scene,
        head: "off",
        riser: hasRiser(setting) ? "out" : "none",
        waterGoes: "in",
        look: ["riser-foot"],
        noBeads: ["seat", "thread"],
      },
    ),
    step(
      {
        id: "spent",
        title: "Let the bag drain, then bin it",
        short: "the spent beads",
        how: ["Hang the sieve bag up until it only drips. Bag it as your authority says, and write on it what it is."],
        done: "Put by",
        amounts: ["spent-weight"],
        cautions: ["spent-resin", "drains"],
        troubles: ["beads-on-floor"],
      },
      { ...scene, head: "off", riser: hasRiser(setting) ? "out" : "none", tool: "sieve-bag", beadsGo: "out" },
    ),
  ];
}

const FILL_TO = {
  "screw-head-tank": "below the threads",
  "inner-seal-bottle": "under the seal",
  "floated-tank": "three quarters",
  cartridge: "packed full",
} as const;

/** Where a kind of vessel is filled to, in words. */
export const fillWords = ({ kind, ways }: Pick<GuideSetting, "kind" | "ways">): string =>
  ways.riser === "floated" && kind !== "cartridge" ? `to ${Math.round(100 * ways.fillTo)} %` : FILL_TO[kind];

/** The open vessel while beads go in. */
const whileFilling = (setting: GuideSetting): Partial<Scene> => {
  const { riser } = setting.ways;
  return {
    ...base(setting),
    head: "off",
    riser: riser === "first" ? "in" : riser === "none" ? "none" : "out",
    plug: riser === "first",
    mark: true,
  };
};

function riserIn(setting: GuideSetting): readonly GuideStep[] {
  const topUp = setting.guided === "top-up";
  return [
    ...when(
      setting.ways.riser === "first",
      step(
        {
          id: "riser-in",
          title: topUp ? "Plug the riser" : "Riser in the middle, its top plugged",
          short: "riser in, plugged",
          how: [
            ...(topUp ? [] : ["Its foot on the bottom, straight, in the middle."]),
            "Plug its top: what falls in there ends in your brush.",
          ],
          done: "Plugged",
          ways: topUp ? [] : ["riser"],
          cautions: [],
        },
        {
          ...whileFilling(setting),
          mark: false,
          look: ["riser-top", "riser-foot"],
          ...(topUp ? { beads: { are: "spent", level: 0.8 } } : {}),
        },
      ),
    ),
  ];
}

function beadsIn(setting: GuideSetting): GuideStep {
  const { kind, ways } = setting;
  const cartridge = kind === "cartridge";
  const riserFirst = ways.riser === "first";
  return step(
    {
      id: "fill",
      title: cartridge
        ? "Fill in layers, tap each one"
        : `Fill ${fillWords(setting)}${riserFirst ? ", riser plugged" : ""}`,
      short: "fill it",
      how: [
        cartridge
          ? "A layer, then tap the wall until it stops sinking; again until it is packed full."
          : `${ways.fill === "scoop" ? "By the scoop" : "Through the funnel"}, a little at a time, or it bridges.`,
        ...(riserFirst ? ["Keep an eye on the plug."] : []),
        ...(ways.riser === "with-head" ? ["Leave room: the riser pushes beads up as it goes in."] : []),
        "Fresh beads often look paler than spent ones; colour alone proves nothing.",
      ],
      done: "Filled",
      amounts: ["litres", "scoops", "bags", "depth-of-fill"],
      asks: ["resin"],
      ways: riserFirst ? ["fill"] : cartridge ? ["fill"] : ["fill", "riser"],
      cautions: ["rolling-beads", "dried-resin", "gloves-and-eyes", "drains"],
      troubles: ["bridges", "will-not-go-in", ...(riserFirst ? (["beads-in-tube"] as const) : []), "looks-dry"],
    },
    {
      ...whileFilling(setting),
      beads: { are: "fresh", level: 0.75 },
      beadsGo: "in",
      tool: ways.fill === "scoop" ? "scoop" : "funnel",
      noBeads: riserFirst ? ["riser-top"] : [],
    },
  );
}

function settleAndWet(setting: GuideSetting): readonly GuideStep[] {
  const cartridge = setting.kind === "cartridge";
  const scene = whileFilling(setting);
  return [
    step(
      {
        id: "settle",
        title: cartridge ? "Tap until it stops sinking" : "Shake, tap or poke: let it settle",
        short: "settle it",
        how: cartridge
          ? ["Fill up what sank. Loose beads part into their two kinds, and water finds the gaps."]
          : ["Beads that only lie where they fell leave gaps for the water. Top up to the mark."],
        done: "Settled",
        timer: "settle",
        amounts: ["litres"],
        troubles: ["will-not-go-in"],
      },
      { ...scene, beads: FRESH, look: cartridge ? ["rim"] : [] },
    ),
    step(
      {
        id: "wet",
        title: "Wet it with pure water",
        short: "wet it",
        how: [
          "Slowly, until it stands in the beads. Tap water already spends some of them.",
          ...(cartridge ? [] : ["It sinks a little: top up to the mark once more."]),
        ],
        done: "Wet",
        amounts: ["wetting-water"],
        asks: ["pure-water"],
        cautions: ["dried-resin", "not-drinking-water"],
        troubles: ["no-pure-water", "looks-dry"],
      },
      { ...scene, beads: FRESH, water: 0.7, waterGoes: "in" },
    ),
  ];
}

const floatIn = (setting: GuideSetting): readonly GuideStep[] => [
  ...when(
    setting.ways.riser === "floated",
    step(
      {
        id: "float",
        title: "Top up with pure water, slide the riser in",
        short: "float the riser in",
        how: [
          "Water over the beads: they part, and the riser slides through the slurry to the bottom.",
          "Plug or thumb on its top while it goes down.",
        ],
        done: "It stands on the bottom",
        amounts: ["floating-water"],
        ways: ["riser"],
        troubles: ["riser-will-not-sink", "beads-in-tube"],
      },
      {
        ...whileFilling(setting),
        riser: "sliding",
        plug: true,
        beads: FRESH,
        water: 1,
        waterGoes: "in",
        look: ["riser-foot"],
        noBeads: ["riser-top"],
      },
    ),
  ),
];

/** Riser, beads, settling, wetting, floating. */
const fillIt = (setting: GuideSetting): readonly GuideStep[] => [
  ...riserIn(setting),
  beadsIn(setting),
  ...settleAndWet(setting),
  ...floatIn(setting),
];

/** Plug out, wipe, parts back, seal, head. */
function closeIt(setting: GuideSetting): readonly GuideStep[] {
  const { kind, ways } = setting;
  const scene: Partial<Scene> = { ...base(setting), head: "off", beads: FRESH, water: 1 };
  const cartridge = kind === "cartridge";
  return [
    step(
      {
        id: "wipe",
        title: cartridge
          ? "Rim free of beads, pad on"
          : hasRiser(setting) && ways.riser !== "with-head"
            ? "Plug out, wipe every bead away"
            : "Wipe every bead away",
        short: "wipe it clean",
        how: [
          cartridge
            ? "One bead under the cap and it leaks past. Pad flat on the beads."
            : "Seat, seal, groove, threads, with a wet cloth. One bead under the seal is a leak past the bed.",
        ],
        done: "Clean",
        check: "Is every bead off the seat and the threads?",
        troubles: ["beads-on-floor"],
        cautions: ["rolling-beads"],
      },
      {
        ...scene,
        look: cartridge ? ["rim"] : ["seat", "thread"],
        noBeads: cartridge ? ["rim", "thread"] : ["seat", "seal", "thread"],
        ...(ways.riser === "with-head" ? ({ riser: "out" } as const) : {}),
      },
    ),
    step(
      {
        id: "seal",
        title: "Look at the seals, grease the O-ring",
        short: "grease the seal",
        how: [
          "Silicone grease, thin, all round. A nicked one is replaced, not greased.",
          ...(kind === "inner-seal-bottle"
            ? ["Loose parts back in reverse order: inner seal around the tube first."]
            : []),
          ...(isStand(setting) ? ["The small spacers go back between canister and stand."] : []),
        ],
        done: "Greased",
        asks: ["seals", "parts-again"],
        troubles: ["seal-nicked", "part-missing"],
        cautions: ["gloves-and-eyes"],
      },
      {
        ...scene,
        tool: "dish",
        look: kind === "inner-seal-bottle" ? ["inner-seal", "seal"] : ["seal"],
        ...(ways.riser === "with-head" ? ({ riser: "out" } as const) : {}),
      },
    ),
    step(
      {
        id: "close",
        title: cartridge
          ? "Cap on by hand, look at the bottom"
          : ways.riser === "with-head"
            ? "Head and riser in together, hand tight"
            : "Head square over the riser, hand tight",
        short: "close it",
        how: cartridge
          ? ["By hand, then barely with the tool.", "Turn it over: a clear gap at the bottom means it was loose."]
          : [
              "Turn it back until it drops into the thread, then on by hand.",
              "A wrench only to nip it, never to torque. If it fights, undo it: it is crossed.",
            ],
        done: "Closed",
        check: cartridge ? "Is it full to the bottom, without a gap?" : "Did it go on without a fight?",
        troubles: cartridge ? ["gap-below", "crossed"] : ["crossed", "riser-will-not-sink"],
      },
      {
        ...scene,
        head: "loose",
        look: cartridge ? ["bottom-gap"] : ["thread"],
        noBeads: ["thread"],
        ...(ways.riser === "with-head" ? ({ riser: "sliding" } as const) : {}),
      },
    ),
  ];
}

/** Set up, purge, leak check, first reading. */
export function setUp(setting: GuideSetting): readonly GuideStep[] {
  const { use, kind, ways, behindMembrane, guided } = setting;
  const scene: Partial<Scene> = { ...base(setting), beads: FRESH, water: 1, hoses: "connected" };
  const up = flowsUp(kind);
  return [
    step(
      {
        id: "connect",
        title:
          ways.mount === "lead-lag"
            ? "The lag to the front, the fresh one behind it"
            : "Stand it up, in and out as the arrows say",
        short: "connect it",
        how: [
          up ? "Water goes up through the beads: in at the bottom." : "Backwards it pushes beads out of the vessel.",
          ...(behindMembrane
            ? []
            : ["The valve is on the inlet, opened only as far as the work needs; a bypass is shut."]),
          ...(guided === "emergency" ? ["At the customer's tap: its first minute to drain, for rust and sand."] : []),
        ],
        done: "Connected",
        cautions: [
          "lift",
          "strap",
          "closed-in-the-sun",
          "backflow",
          ...(use === "aquarium" ? (["copper", "float-valve"] as const) : (["float-valve"] as const)),
        ],
        amounts: ["wet-weight"],
      },
      { ...scene, heavy: true, look: ["inlet", "outlet"] },
    ),
    step(
      {
        id: "purge",
        title: "Open slowly, let the air out",
        short: "purge it",
        how: [
          "A quarter turn, outlet open, to drain. The first minute reads high and may be tinted: it is thrown away.",
        ],
        done: "Clear",
        timer: "purge",
        check: "Does it run clear, without beads?",
        troubles: ["cloudy", "beads-in-outlet"],
        cautions: ["stagnant-water", "not-drinking-water", ...(use === "aquarium" ? (["copper"] as const) : [])],
      },
      { ...scene, waterGoes: "through", look: ["outlet"], noBeads: ["outlet"] },
    ),
    step(
      {
        id: "leak",
        title: "Leak check: low pressure, then full",
        short: "check for leaks",
        how: ["A dry finger around every seal. Then shut the outlet and look again at full pressure."],
        done: "Dry",
        check: "Is every seal dry at full pressure?",
        troubles: ["leak"],
        cautions: ["pressure"],
      },
      { ...scene, waterGoes: "through", look: ["seal", "inlet", "outlet"] },
    ),
    step(
      {
        id: "first-reading",
        title: "Rinse up, take the first reading",
        short: "first reading",
        how: ["Two minutes at the flow of the work, then read at the outlet."],
        done: "Read",
        timer: "rinse-up",
        asks: ["first-reading"],
        troubles: ["reads-high-falls", "reads-share", "reads-feed", "rises-within-days", "beads-in-outlet"],
        cautions: ["not-drinking-water"],
      },
      { ...scene, waterGoes: "through", tool: "meter", look: ["outlet"] },
    ),
  ];
}

const tidy = (setting: GuideSetting) =>
  step(
    {
      id: "tidy",
      title: "Count the tools, sweep, close the bag",
      short: "tidy up",
      how: [
        "The same tools as at the start: none in the vessel.",
        "Close the bag air-tight and write today on it.",
        "A rig that will stand for days stays wet, upright, out of frost and sun.",
      ],
      done: "Tidied",
      asks: ["tools-again"],
      cautions: ["wash-hands", "rolling-beads", "heat", "frost", "bystanders"],
      troubles: ["part-missing", "beads-on-floor"],
    },
    { ...base(setting), beads: FRESH, water: 1, hoses: "connected" },
  );

/** A vessel is emptied and filled anew. */
export const refillSteps = (setting: GuideSetting): readonly GuideStep[] => [
  ...takeOff(setting),
  ...emptyIt(setting),
  ...fillIt(setting),
  ...closeIt(setting),
  ...setUp(setting),
  tidy(setting),
];

/** Share of the mark to which a sunken bed is drawn. */
const SUNKEN = 0.8;

/** The fresh beads of a top-up lie on the spent ones. */
const onSpent = (step: GuideStep): GuideStep => {
  const { beads } = step.scene;
  if (beads?.are !== "fresh") return step;
  return { ...step, scene: { ...step.scene, beads: { ...beads, level: Math.max(beads.level, 0.9), spentTo: SUNKEN } } };
};

/** Fresh beads on top of what is there, where the bed has sunk. */
export function topUpSteps(setting: GuideSetting): readonly GuideStep[] {
  const filled = fillIt(setting).filter(({ id }) => id !== "float");
  return [
    ...takeOff(setting).filter(({ id }) => id !== "disconnect"),
    ...emptyIt({ ...setting, ways: { ...setting.ways, drain: "wet" } }).filter(
      ({ id }) => id === "open" || id === "parts",
    ),
    step(
      {
        id: "sunken",
        title: "How far has the bed sunk?",
        short: "look how far it sank",
        how: [
          "Topping up fills the gap above sunken beads: water no longer runs through it. It does not revive spent ones.",
          "A conditioner dosed into the product is no substitute: it adds what you took out. Change earlier instead.",
        ],
        done: "Looked",
        cautions: ["gloves-and-eyes"],
        troubles: ["cracked-strainer"],
      },
      { ...base(setting), head: "off", beads: { are: "spent", level: SUNKEN }, mark: true },
    ),
    ...[...filled, ...closeIt(setting), ...setUp(setting), tidy(setting)].map(onSpent),
  ];
}

/** A whole vessel goes, another one comes: from one's own pool, or regenerated by a service company. */
export function exchangeSteps(setting: GuideSetting): readonly GuideStep[] {
  const own = setting.guided === "swap";
  const scene = base(setting);
  return [
    ...takeOff(setting),
    step(
      {
        id: "caps",
        title: "Close the spent one, label it",
        short: "cap and label",
        how: own
          ? ["Caps on both ends, so that the beads stay moist. Write on it: spent, and today's date."]
          : ["Caps on both ends, the company's label with the date and your last reading."],
        done: "Labelled",
        cautions: ["closed-in-the-sun", "heat", "frost", "strap"],
      },
      { ...scene, beads: SPENT, water: 1, heavy: true },
    ),
    step(
      {
        id: "vessel-in",
        title: own ? "Which vessel comes in?" : "Look at what they brought",
        short: own ? "the vessel that comes in" : "look at the new one",
        how: own
          ? ["Filled, closed, moist. One that stood for months holds a little less: say when it was filled."]
          : [
              "Mixed bed, not softener beads; the label's date; seals in both ends.",
              "Regenerated resin holds less than virgin, and differs by batch: it counts as regenerated.",
            ],
        done: own ? "Chosen" : "Looked at",
        asks: own ? ["vessel-in", "resin"] : ["resin"],
        cautions: ["lift"],
        amounts: ["wet-weight"],
        troubles: ["looks-dry", "seal-nicked"],
      },
      { ...scene, beads: FRESH, water: 1, heavy: true, look: ["seal"] },
    ),
    ...setUp(setting),
    step(
      {
        id: "tidy",
        title: "Put the spent one away",
        short: "put it away",
        how: own
          ? ["Back to the pool: it is filled at the workshop, in peace."]
          : ["Upright where the driver finds it, out of sun and frost, away from children."],
        done: "Put away",
        cautions: ["wash-hands", "lift", "heat", "frost", "bystanders"],
        asks: [],
      },
      { ...scene, beads: SPENT, water: 1, heavy: true },
    ),
  ];
}
