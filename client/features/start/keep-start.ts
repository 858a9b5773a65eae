import { clockNow } from "../../data/clock";
import type { Id } from "@winter-bead/core";
import { startingRecords } from "@winter-bead/core/src/start";
import { kept, type Step } from "../../data/acts";
import { act, newId, type Done } from "../../data/store";
import { UNKNOWN_AS, type StartQuestion } from "./answer";

const body = <T extends { readonly id: Id }>({ id: _id, ...rest }: T) => rest;

/**
 * Makes site, tap, meter, vessel, rig and charge of a first day's answers, in one act.
 * @throws Error in the technician's words where an answer is wrong
 */
export async function keepStart({
  now: _asked,
  meter,
  ...answers
}: StartQuestion): Promise<Done & { readonly rigId: Id }> {
  const read = "id" in meter ? meter : { scale: meter.scale === "unknown" ? UNKNOWN_AS : meter.scale };
  const made = startingRecords({ ...answers, meter: read }, newId, clockNow());
  if (!made.ok) throw new Error(made.fault.message);
  const { site, tap, meter: kind, vessel, rig, arrangement, charge, feedTest, isNew } = made.value;
  const name = !("id" in meter) && meter.scale === "unknown" ? "Hand meter, scale not known" : kind.name;
  const steps: readonly (Step | undefined)[] = [
    site && kept("sites", body(site), site.id),
    isNew.tap ? kept("taps", body(tap), tap.id) : undefined,
    isNew.meter ? kept("meters", { ...body(kind), name }, kind.id) : undefined,
    kept("vessels", body(vessel), vessel.id),
    kept("rigs", body(rig), rig.id),
    kept("arrangements", body(arrangement), arrangement.id),
    kept("charges", body(charge), charge.id),
    feedTest && kept("feed-tests", body(feedTest), feedTest.id),
  ];
  const done = await act(
    `First day of ${rig.name}`,
    steps.filter((step) => step !== undefined),
  );
  return { ...done, rigId: rig.id };
}
