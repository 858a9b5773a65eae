import { step, type GuideSetting, type GuideStep, type Scene } from "./step";

type Cartridge = "sediment" | "carbon" | "membrane";

const NAMES: Readonly<Record<Cartridge, string>> = {
  sediment: "sediment cartridge",
  carbon: "carbon cartridge",
  membrane: "membrane",
};

const housing = (more: Partial<Scene>): Partial<Scene> => ({ of: "housing", riser: "none", water: 1, ...more });

/** Tools for a housing, counted before and after. */
export const HOUSING_TOOLS = [
  "Gloves",
  "Housing wrench",
  "Tub",
  "Cloth",
  "Silicone grease",
  "Spare O-ring",
  "Flat seals",
  "The new one",
] as const;

const ready = (part: Cartridge) =>
  step(
    {
      id: "ready",
      title: `The new ${NAMES[part]}, and what it needs`,
      short: "lay it at hand",
      how: [
        part === "membrane"
          ? "Its wrapping stays on until it goes in: a membrane that dried out is harmed."
          : "Same length and ends as the old one. Its wrapping stays on until it goes in.",
      ],
      done: "At hand",
      asks: ["tools"],
      cautions: ["gloves-and-eyes", "wet-floor"],
    },
    housing({ hoses: "connected", element: "old" }),
  );

/** Rinsed or flushed to drain, so that what was in the wrapping does not reach the next stage. */
function flush(part: Cartridge): GuideStep {
  const scene = housing({
    ...{ hoses: "connected", element: "new", waterGoes: "through", look: ["outlet"] },
    ...(part === "membrane" ? { along: true } : {}),
  });
  if (part === "membrane")
    return step(
      {
        id: "flush",
        title: "Flush it for its first hour, to drain",
        short: "flush it",
        how: [
          "Product and waste both to drain, resin shut. What protects it in its wrapping must not reach the beads.",
        ],
        done: "Flushed",
        timer: "membrane-flush",
        cautions: ["not-drinking-water", "backflow"],
        troubles: ["housing-leaks"],
      },
      scene,
    );
  return step(
    {
      id: "flush",
      title: part === "carbon" ? "Rinse the carbon to drain" : "Open slowly, rinse to drain",
      short: "rinse it",
      how: [
        part === "carbon"
          ? "Black, then grey, then clear: only then on to the membrane or the resin."
          : "Air and fibres out before the next stage gets the water.",
      ],
      done: "Runs clear",
      check: "Does it run clear?",
      ...(part === "carbon" ? { timer: "carbon-rinse" as const } : {}),
      troubles: part === "carbon" ? ["still-grey", "housing-leaks"] : ["cloudy", "housing-leaks"],
      cautions: ["stagnant-water", "backflow"],
    },
    scene,
  );
}

/** Isolated, opened, looked at, wiped. */
const openIt = (part: Cartridge): readonly GuideStep[] => {
  const isMembrane = part === "membrane";
  return [
    step(
      {
        id: "pressure-down",
        title: "Shut the feed, let the pressure down",
        short: "let the pressure down",
        how: ["Feed shut, pump off, a line behind it open, or the button on the housing pressed, until nothing comes."],
        done: "Nothing runs",
        check: "Does nothing run any more?",
        troubles: ["still-runs"],
        cautions: ["pressure", "wet-floor"],
      },
      housing({ hoses: "connected", element: "old", waterGoes: "out", look: ["inlet", "outlet"] }),
    ),
    step(
      {
        id: "open",
        title: "Open the housing with its wrench",
        short: "open the housing",
        how: [
          isMembrane
            ? "The tub below. Feed line off its cap, cap off; draw the membrane out straight."
            : "The tub below. Hold the bowl from underneath: it is full of water.",
        ],
        done: "Open",
        troubles: ["will-not-turn"],
        cautions: ["pressure", "slimy-cartridge"],
      },
      housing({ head: "loose", element: "old", tool: "wrench", look: ["thread"] }),
    ),
    step(
      {
        id: "look",
        title: "What does the old one look like?",
        short: "look at the old one",
        how: [
          part === "sediment"
            ? "Rust and sand tell of the line; slime of warm standing water."
            : part === "carbon"
              ? "Rusty means that the sediment stage before it let go."
              : "Slime or rust on its wrap: the stages before it came too late.",
        ],
        done: "Looked",
        asks: ["look"],
        cautions: ["slimy-cartridge"],
      },
      housing({ head: "off", element: "old", look: ["o-ring"] }),
    ),
    step(
      {
        id: "wipe",
        title: "Wipe the housing out",
        short: "wipe it out",
        how: ["Clean cloth, clean water. O-ring out, its groove wiped, looked at for nicks."],
        done: "Clean",
        troubles: ["seal-nicked"],
        cautions: ["wash-hands"],
      },
      housing({ head: "off", element: "none", water: 0, look: ["o-ring"] }),
    ),
  ];
};

/** The new one in, sealed and closed. */
const closeIt = (part: Cartridge): readonly GuideStep[] => {
  const isMembrane = part === "membrane";
  return [
    step(
      {
        id: "swap",
        title: isMembrane ? "Slide the membrane in until it seats" : "New one in, a flat seal at both ends",
        short: "the new one in",
        how: isMembrane
          ? [
              "Its two small O-rings wetted with pure water or silicone grease; tube end first, straight, a last push.",
              "The wide lip seal sits at the feed end, its open side to the feed.",
            ]
          : ["Water goes through it from outside to inside: it must stand centred on both knife edges."],
        done: "In",
        check: isMembrane ? "Did it seat with a push?" : "Does it stand centred, with both flat seals?",
        troubles: isMembrane ? ["membrane-tight", "seal-nicked"] : ["does-not-seal"],
      },
      housing({ head: "off", element: "new", water: 0, look: isMembrane ? ["o-ring"] : ["flat-seals"] }),
    ),
    step(
      {
        id: "close",
        title: "O-ring greased, snug and not more",
        short: "close it",
        how: ["O-ring back in its groove, a thin film of silicone grease. By hand, then a nip with the wrench."],
        done: "Snug",
        asks: ["seals"],
        troubles: ["crossed", "seal-nicked"],
      },
      housing({ head: "loose", element: "new", water: 0, look: ["o-ring", "thread"] }),
    ),
  ];
};

/** Isolate, open, look, swap, seal, close, rinse, check: of a sediment, a carbon or a membrane cartridge. */
export function cartridgeSteps({ guided, use }: GuideSetting): readonly GuideStep[] {
  const part = guided as Cartridge;
  const isMembrane = part === "membrane";
  const along = isMembrane ? ({ along: true } as const) : {};
  return [
    ready(part),
    ...openIt(part),
    ...closeIt(part),
    flush(part),
    step(
      {
        id: "leak",
        title: "Leak check at full pressure",
        short: "check for leaks",
        how: ["A dry finger around the seam and both lines."],
        done: "Dry",
        check: "Is it dry at full pressure?",
        troubles: ["housing-leaks"],
        cautions: ["pressure"],
      },
      housing({ hoses: "connected", element: "new", waterGoes: "through", ...along, look: ["o-ring"] }),
    ),
    ...(isMembrane
      ? [
          step(
            {
              id: "baseline",
              title: "Its first clean figures",
              short: "first figures",
              how: [
                "What it makes now is the baseline for years: read it at the pressure of the work.",
                "What you cannot read stays empty, and can be noted later at Water, membrane.",
              ],
              done: "Read",
              asks: ["first-reading", "baseline"],
              cautions: use === "aquarium" ? ["copper"] : [],
            },
            housing({
              hoses: "connected",
              element: "new",
              waterGoes: "through",
              ...along,
              tool: "meter",
              look: ["outlet"],
            }),
          ),
        ]
      : []),
    step(
      {
        id: "tidy",
        title: "Write the date on it, count the tools",
        short: "tidy up",
        how: ["Today's date on the housing. The old one into the bin, bagged."],
        done: "Tidied",
        asks: ["tools-again"],
        cautions: ["wash-hands", "frost"],
      },
      housing({ hoses: "connected", element: "new" }),
    ),
  ];
}
