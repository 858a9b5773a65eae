import { besideOldRig, KINDS, RANGES, upcast, type Kind, type RigStandingInput } from "@winter-bead/core";
import { z } from "zod";
import { date, flag, id, instant, known, numberIn, text } from "./fields";
import { schemaOfKind } from "./from-descriptor";
import { prices } from "./size";

/** What the records API adds to a record's own fields. */
const kept = { id, version: z.int({ error: "A version is a whole number." }).optional(), voided: flag.optional() };

const list = <S extends z.ZodType>(item: S, name: string, most: number) =>
  z.array(item, { error: `${name} must be a list.` }).max(most, `At most ${most.toLocaleString("en")} ${name}.`);

const MOST_VISITS = 1000;
const MOST = 1000;

/** A rig of the first shape, whose stages named their vessels, as one of today's with its arrangement. */
function asToday(sent: unknown): unknown {
  const { rig, arrangements, now } = (sent ?? {}) as Record<string, unknown>;
  const { id: rigId, stages } = (rig ?? {}) as Record<string, unknown>;
  if (typeof rigId !== "string" || !Array.isArray(stages) || arrangements !== undefined) return sent;
  if (!stages.some((stage) => stage !== null && typeof stage === "object" && "vesselId" in stage)) return sent;
  const body = rig as Readonly<Record<string, unknown>>;
  const said = id.safeParse(rigId).success
    ? besideOldRig({ id: rigId, version: 1, body, shape: 1, at: String(now) })
    : undefined;
  return {
    ...(sent as object),
    rig: upcast(KINDS.rigs as Kind, body),
    ...(said ? { arrangements: [{ id: said.id, ...said.body }] } : {}),
  };
}

const today = known({
  now: instant("The present moment"),
  timeZone: text("The time zone", 60),
  rig: schemaOfKind(KINDS.rigs, kept),
  arrangements: list(schemaOfKind(KINDS.arrangements, kept), "arrangements", MOST).optional(),
  rigs: list(schemaOfKind(KINDS.rigs, kept), "rigs", MOST).optional(),
  vessels: list(schemaOfKind(KINDS.vessels, kept), "vessels", MOST),
  taps: list(schemaOfKind(KINDS.taps, kept), "taps", MOST),
  meters: list(schemaOfKind(KINDS.meters, kept), "meters", MOST),
  charges: list(schemaOfKind(KINDS.charges, kept), "charges", MOST),
  visits: list(schemaOfKind(KINDS.visits, kept), "visits", MOST_VISITS),
  feedTests: list(schemaOfKind(KINDS["feed-tests"], kept), "feed tests", MOST).optional(),
  reports: list(schemaOfKind(KINDS["water-reports"], kept), "reports", MOST).optional(),
  jobsPerWeek: numberIn(RANGES.jobsPerWeek).optional(),
  bookings: list(
    known({
      on: date("The day of the booking"),
      litres: numberIn({ ...RANGES.litres, name: "The litres of a booking" }),
    }),
    "bookings",
    MOST,
  ).optional(),
}) satisfies z.ZodType<RigStandingInput>;

export const standingRequest = z.preprocess(asToday, today);
export const trainWorthRequest = z.preprocess(asToday, today.extend({ prices: prices.optional() }));

const figure = z.number();
const three = z.strictObject({ low: figure, typical: figure, high: figure });
const verdict = z.strictObject({
  state: z.enum(["fine", "watch", "finish", "change"]),
  reasons: z.array(z.strictObject({ code: z.string(), words: z.string() })),
});

export const standingAnswer = z.strictObject({
  vessels: z.array(
    z.strictObject({
      vesselId: z.string(),
      chargeId: z.string(),
      treated: figure,
      capacity: z.strictObject({ low: figure, median: figure, high: figure }),
      left: three.optional(),
      leftTo: z.enum(["limit", "hard", "none"]),
      leak: three.optional(),
      dates: z.strictObject({ early: z.iso.date(), likely: z.iso.date(), late: z.iso.date() }).optional(),
      sinceLog: z.strictObject({ days: figure, litres: figure }),
      verdict,
    }),
  ),
  train: verdict,
});

export const trainWorthAnswer = z.strictObject({
  acts: z
    .array(
      z.strictObject({
        act: z.enum(["rotate", "run-lead", "run-out", "replace-all"]),
        litres: three,
        days: figure.optional(),
        runsUntil: z.strictObject({ litres: figure, days: figure.optional(), risk: figure }).optional(),
        fillings: figure,
        money: figure,
        thrownAway: z.strictObject({ litres: figure, money: figure }),
      }),
    )
    .readonly(),
});
