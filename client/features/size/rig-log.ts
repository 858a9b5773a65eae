import {
  chargeLedgers,
  loadUsed,
  type ChargeLedger,
  type LoggedDay,
  type Plan,
  type PlanActual,
} from "@winter-bead/core";
import { localDate } from "../../ui/format";
import { inBooks, type RigFacts } from "../rack/assess";

const WEEK = 7 * 86_400_000;

/** Ledgers of a rig's charges with the water that each met first: of a train its time as lead, so that no litre counts twice. */
const ledgersOf = (facts: RigFacts): readonly ChargeLedger[] =>
  chargeLedgers(inBooks(facts)).map((ledger) => ({
    ...ledger,
    lines: ledger.lines.filter(({ rigId, place }) => rigId === facts.rig.id && place === 0),
  }));

/** Litres of each visit of a rig, as its ledger counts them. */
export const loggedDays = (facts: RigFacts): readonly LoggedDay[] =>
  ledgersOf(facts).flatMap(({ lines }) =>
    lines
      .filter(({ litres }) => litres > 0)
      .map(({ at, litres, quality }) => ({ date: localDate(at), litres, quality })),
  );

/** What the log of the plan's rig says since the plan is in use. */
export function planActual({ inUseSince }: Pick<Plan, "inUseSince">, facts: RigFacts): PlanActual | undefined {
  if (inUseSince === undefined) return undefined;
  const since = Date.parse(inUseSince);
  const ledgers = ledgersOf(facts);
  const lines = ledgers.flatMap((ledger) => ledger.lines).filter(({ at }) => at >= since);
  const whole = ledgers.filter(({ charge }) => Date.parse(charge.filledAt) >= since);
  const ended = whole.filter(({ charge }) => charge.ended?.why === "limit");
  const open = whole.find(({ charge }) => charge.ended === undefined);
  return {
    weeks: Math.max(0, facts.now - since) / WEEK,
    litres: lines.reduce((sum, { litres }) => sum + litres, 0),
    charges: ended.map((ledger) => loadUsed(ledger.lines).litres),
    chargeSoFar: open ? loadUsed(open.lines).litres : 0,
  };
}
