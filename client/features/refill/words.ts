import type { Guided } from "@winter-bead/core";
import { TIMERS, type Amount, type AmountName, type Scene, type TimerName } from "@winter-bead/core/src/refill";
import { shown, threeDigits, toShown, type Units } from "../../ui/format";

/** What is done, of what. @example guidedWords("refill", "Bay 2") // "Refill Bay 2" */
export function guidedWords(guided: Guided, name: string): string {
  const of: Readonly<Record<Guided, string>> = {
    refill: `Refill ${name}`,
    early: `Change ${name} early`,
    emergency: `Refill ${name} at a site`,
    "top-up": `Top up ${name}`,
    swap: `Swap the vessel of ${name}`,
    exchange: `Exchange ${name}`,
    sediment: `Sediment cartridge of ${name}`,
    carbon: `Carbon cartridge of ${name}`,
    membrane: `Membrane of ${name}`,
  };
  return of[guided];
}

export interface AmountWords {
  readonly big: string;
  readonly small: string;
}

const oneDigit = (value: number) => (value < 10 ? value.toFixed(1).replace(/\.0$/, "") : String(Math.round(value)));

/** A figure beside the drawing: large, and what it is of. */
export function amountWords(name: AmountName, { value, twoPeople }: Amount, units: Units): AmountWords {
  if (name === "litres") {
    const { text, unit } = shown("resinVolume", value, units);
    return { big: `${text} ${unit}`, small: "of beads" };
  }
  if (name === "scoops") return { big: "", small: `${oneDigit(value)} scoops` };
  if (name === "bags") return { big: "", small: "" };
  if (name === "depth-of-fill") {
    if (value < 1) return { big: "", small: "packed full" };
    const { unit } = shown("length", value, units);
    const number = toShown("length", value, units);
    return { big: "", small: `${units === "us" ? number.toFixed(1) : Math.round(number)} ${unit} below` };
  }
  if (name === "wetting-water" || name === "floating-water") {
    const { text, unit } = shown("volume", value, units);
    return { big: `${text} ${unit}`, small: "of pure water" };
  }
  const { text, unit } = shown("weight", value, units);
  const what = name === "wet-weight" ? "wet" : name === "drained-weight" ? "drained" : "of beads, drained";
  return { big: `${text} ${unit}`, small: twoPeople ? `${what}: lift with two` : what };
}

/** How long a time still runs, or since when it is over. @example runningWords(61_000) // "1:01" */
export function runningWords(left: number): string {
  const seconds = Math.ceil(Math.abs(left) / 1000);
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const two = (n: number) => String(n).padStart(2, "0");
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

export const timerWords = (name: TimerName): string => {
  const { minutes } = TIMERS[name];
  return minutes >= 60 ? `${threeDigits(minutes / 60)} h` : `${minutes} min`;
};

const SPOT_WORDS = {
  thread: "the threads",
  seat: "the seat",
  seal: "the seal",
  "inner-seal": "the inner seal",
  "riser-top": "the riser's top",
  "riser-foot": "the riser's foot",
  rim: "the rim",
  base: "the base",
  inlet: "the inlet",
  outlet: "the outlet",
  "bottom-gap": "the bottom",
  "flat-seals": "the flat seals",
  "o-ring": "the O-ring",
} as const;

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;

/** What a drawing shows, for those who do not see it. */
export function sceneWords(scene: Scene): string {
  const vessel = scene.of === "housing" ? "The housing" : "The vessel";
  const stance = { upright: "stands", laid: "lies on its side", "turned-over": "is turned over" }[scene.stance];
  const head = { on: "closed", loose: "its head coming off or on", off: "open" }[scene.head];
  const riser = { in: "riser in", out: "riser out", pulled: "riser drawn out", sliding: "riser sliding in", none: "" }[
    scene.riser
  ];
  const beads = scene.beads
    ? `${scene.beads.are} beads${scene.beadsGo === "in" ? " going in" : scene.beadsGo === "out" ? " coming out" : ""}`
    : scene.element && scene.element !== "none"
      ? `the ${scene.element} cartridge in it`
      : "";
  const water = {
    through: "water running through",
    out: "pressure running out",
    drains: "water draining",
    in: "pure water going in",
    none: "",
  }[scene.waterGoes];
  return [
    `${vessel} ${stance}, ${head}`,
    [riser, scene.plug ? "its top plugged" : "", beads, water, scene.mark ? "the fill mark drawn" : ""]
      .filter(Boolean)
      .join(", "),
    scene.look.length > 0 ? `Look at ${listed(scene.look.map((spot) => SPOT_WORDS[spot]))}` : "",
    scene.noBeads.length > 0 ? `No beads at ${listed(scene.noBeads.map((spot) => SPOT_WORDS[spot]))}` : "",
  ]
    .filter(Boolean)
    .map((words) => `${words}.`)
    .join(" ");
}
