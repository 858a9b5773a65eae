import {
  LOOK,
  Trains,
  type Charge,
  type Found,
  type Id,
  type MembraneCheck,
  type ReadingPoint,
  type ReadingRecord,
  type Vessel,
  type Visit,
} from "@winter-bead/core";
import { filledAt, isCartridgeWork, minutesAtWork } from "@winter-bead/core/src/refill";
import { bodyOf, changed, kept, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import { newId } from "../../data/new-id";
import { daysBetween, DAYS_IN_MONTH } from "@winter-bead/core";
import { localDate } from "../../ui/format";
import type { RefillPreset } from "../setup/refill-form";
import type { Guide } from "./useGuide";

const iso = (at: number) => new Date(at).toISOString();
type Logged = Omit<Visit, "id">;

const readingOf = (output: NonNullable<Found["output"]>, point: ReadingPoint): ReadingRecord => ({
  ...{ id: newId(), point },
  ...output,
});

/** What was read at a step, as the log keeps it. */
function visitOf(
  { facts }: Guide,
  found: Found | undefined,
  at: number,
  point: ReadingPoint,
  stageId?: Id,
): Logged | undefined {
  const { output, total } = found ?? {};
  if (output === undefined && total === undefined) return undefined;
  return {
    ...{ rigId: facts.rig.id, tapId: facts.rig.tapId, at: iso(at) },
    readings: output ? [{ ...readingOf(output, point), ...(stageId === undefined ? {} : { stageId }) }] : [],
    ...(total === undefined ? {} : { water: { by: "total" as const, total } }),
  };
}

/** The stage of the vessel in work, where the train has several. */
function stageOf({ facts, vessel }: Guide): Id | undefined {
  const standing = new Trains(facts.train.arrangements).at(facts.rig.id, facts.now);
  return standing.length > 1 ? standing.find(({ vesselId }) => vesselId === vessel.id)?.stageId : undefined;
}

export interface Readings {
  /** The old charge's last one; before the new one begins. */
  readonly last?: Logged | undefined;
  readonly first?: Logged | undefined;
}

/** The readings of a piece of work, for the log. */
export function readingsOf(guide: Guide, now: number): Readings {
  const { work, guided } = guide;
  if (!work) return {};
  const at = (step: string) => Date.parse(work.steps.get(step)?.at ?? iso(now));
  if (isCartridgeWork(guided))
    return { first: visitOf(guide, work.foundAt.get("baseline"), at("baseline"), "after-membrane") };
  const began = filledAt(work, now);
  // Of a train the old charge's last reading is behind its own vessel; the first one after it is of the whole.
  const stageId = stageOf(guide);
  return {
    last: visitOf(
      guide,
      work.foundAt.get("last-reading"),
      Math.min(at("last-reading"), began - 1000),
      "output",
      stageId,
    ),
    first: visitOf(guide, work.foundAt.get("first-reading"), at("first-reading"), "output"),
  };
}

/** A vessel that was filled some time ago holds less: closed and wet it ages as resin in foil does. */
function storedSince(found: Found, today: string): Charge["stored"] | undefined {
  const { filledOn } = found;
  if (filledOn === undefined || filledOn >= today) return undefined;
  return { container: "sealed-foil", months: daysBetween(filledOn, today) / DAYS_IN_MONTH, warm: false };
}

/** The refill's form as the guide has seen and asked it. */
export function presetOf(guide: Guide, vessel: Vessel, now: number): RefillPreset {
  const { work, guided, setting } = guide;
  const found = work?.found ?? {};
  const began = work ? filledAt(work, now) : now;
  const wasSettled = work?.steps.get("settle")?.outcome === "done";
  const loose = setting.kind === "cartridge" ? "loose-cartridge" : "poured";
  const stored = guided === "swap" ? storedSince(found, localDate(began)) : undefined;
  const isFilled = guided !== "swap" && guided !== "exchange";
  return {
    name: `refill:${guide.id}:finish`,
    fromStock: isFilled,
    charge: {
      vesselId: vessel.id,
      filledAt: iso(began),
      packing: wasSettled || !isFilled ? "settled" : loose,
      minutes: Math.max(1, Math.round(minutesAtWork(guide.records, now))),
      ...(found.resinLitres === undefined ? {} : { resinLitres: found.resinLitres }),
      ...(found.grade === undefined ? {} : { grade: found.grade }),
      ...(found.total === undefined ? {} : { startTotal: found.total }),
      ...(stored ? { stored } : {}),
    },
    ...(guided === "early" ? { why: "early" as const } : {}),
  };
}

/** Readings, seals and cartridges of a piece of work, as records. */
export function besideRefill(guide: Guide, now: number): readonly Step[] {
  const { work, guided, facts } = guide;
  if (!work) return [];
  const rigId = facts.rig.id;
  const { last, first } = readingsOf(guide, now);
  const found = work.found;
  const sealed = work.steps.get(isCartridgeWork(guided) ? "close" : "seal");
  const service = (part: "seals" | "sediment" | "carbon" | "membrane", at: string, words: string | undefined) =>
    kept("services", { rigId, part, at, ...(words ? { note: words } : {}) }, newId());
  return [
    ...(last ? [kept("visits", last, newId())] : []),
    ...(first ? [kept("visits", first, newId())] : []),
    ...(sealed?.outcome === "done" && !isCartridgeWork(guided)
      ? [service("seals", sealed.at, found.newSeals ? "Renewed at the refill." : "Greased at the refill.")]
      : []),
    ...(isCartridgeWork(guided) ? [service(guided, work.steps.get("swap")?.at ?? iso(now), lookWords(guide))] : []),
    ...baselineOf(guide, now),
  ];
}

/** What the old cartridge looked like: kept with its change. */
export function lookWords({ work }: Guide): string | undefined {
  const { look } = work?.found ?? {};
  const note = work?.steps.get("look")?.note;
  const words = [look ? `The old one: ${LOOK.of[look].toLowerCase()}.` : "", note ?? ""].filter(Boolean).join(" ");
  return words === "" ? undefined : words;
}

/** A new membrane's first clean figures, where all of them were read: the baseline that later checks are held against. */
function baselineOf({ work, facts, guided }: Guide, now: number): readonly Step[] {
  const { output, baseline } = work?.foundAt.get("baseline") ?? {};
  const { feed, temperature, pressure, productFlow, wasteFlow } = baseline ?? {};
  if (guided !== "membrane" || !output) return [];
  if ([feed, temperature, pressure, productFlow, wasteFlow].some((each) => each === undefined)) return [];
  const { value: product, temperature: _, ...by } = output;
  const check = {
    ...{ rigId: facts.rig.id, at: work?.steps.get("baseline")?.at ?? iso(now), ...by, feed, product },
    ...{ temperature, pressure, productFlow, wasteFlow, clean: true },
  };
  return [kept("membrane-checks", check as Omit<MembraneCheck, "id">, newId())];
}

/** More beads on top of a charge: it holds more from now on, and nothing is learnt from the mixture. */
export function toppedUp(open: Kept<"charges">, added: Charge): Step {
  const from = [...(open.from ?? []), ...(added.from ?? [])];
  const byBag = new Map<string, number>();
  for (const { bagId, litres } of from) byBag.set(bagId, (byBag.get(bagId) ?? 0) + litres);
  return changed("charges", open, {
    ...bodyOf(open),
    resinLitres: open.resinLitres + added.resinLitres,
    ...(from.length > 0 ? { from: [...byBag].map(([bagId, litres]) => ({ bagId, litres })) } : {}),
    leftOut: true,
  });
}
