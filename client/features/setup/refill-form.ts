import { clockNowIso } from "../../data/clock";
import { isAgainstReadings, type BagInStock, type Charge, type ReasonSeen } from "@winter-bead/core";
import { useMemo } from "react";
import { changed, kept, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { newId } from "../../data/store";
import type { Bodies } from "../../forms/resolve";
import type { Texts } from "../../forms/texts";
import { useRecordForm } from "../../forms/useRecordForm";
import { localDate } from "../../ui/format";
import type { RigFacts } from "../rack/assess";
import { besideCharge, chargeAsTyped, fillComplaints, reasonComplaints, usualFill } from "./charge-as-typed";
import { bagComplaints, openedSteps, portionsIn, withBags } from "./from-bags";

/** The end of the charge in use: when the new one is filled, for the reason typed, confirmed where it was asked about. */
function endedAsTyped(open: Charge, old: Partial<Charge>, at: string, beside: Texts, seen: ReasonSeen | undefined) {
  const { why, note } = old.ended ?? {};
  const confirmed = why !== undefined && beside["rightReason"] === why && isAgainstReadings(why, seen);
  const ended = { at, why, ...(note ? { note } : {}), ...(confirmed ? { confirmed } : {}) };
  return { ...open, ended };
}

const PLACES = { "old.ended.at": "charge.filledAt", "charge.stored.container": "beside.bag" };

/** What is known of a refill before anybody types: the guide has seen and asked it. */
export interface RefillPreset {
  /** The form's own name, so that its draft is not another one's. */
  readonly name?: string;
  readonly charge?: Partial<Charge>;
  /** Its resin comes from the shelf where something fits there. */
  readonly fromStock?: boolean;
  /** Why the old one ends, where its readings do not speak. */
  readonly why?: "early" | "limit";
}
const NO_PRESET: RefillPreset = {};

const endsAs = (seen: ReasonSeen | undefined, { why }: RefillPreset) => {
  const reason = seen?.why ?? why;
  return reason ? { why: reason } : undefined;
};

/** The form of a refill: the old charge ends, the new one begins, both when it was done. */
export function useRefillForm(
  { rig, vessel }: RigFacts,
  open: Kept<"charges"> | undefined,
  seen: ReasonSeen | undefined,
  stock: readonly BagInStock[],
  preset: RefillPreset = NO_PRESET,
) {
  const { units } = useSettings();
  const opened = useMemo(() => clockNowIso(), []);
  const fresh = useMemo(
    () => ({
      vesselId: vessel.id,
      rigId: rig.id,
      grade: open?.grade ?? "virgin",
      resinLitres: usualFill(vessel, units),
      packing: "settled",
      filledAt: opened,
      ...preset.charge,
    }),
    [vessel, rig.id, open, opened, units, preset],
  );
  const parts = useMemo(
    () => ({
      charge: { kind: "charges" as const, before: fresh },
      ...(open ? { old: { kind: "charges" as const, before: { ...open, ended: endsAs(seen, preset) } } } : {}),
    }),
    [fresh, open, seen, preset],
  );
  const beside = useMemo(
    // Of a vessel that is filled for the first time nobody knows whether its resin came from the shelf.
    () => ({
      ...besideCharge(preset.charge?.stored ? (preset.charge as Charge) : undefined),
      fromBags: (preset.fromStock ?? open !== undefined) && stock.length > 0 ? "proposed" : "none",
      rightBags: "",
    }),
    [stock.length, open, preset],
  );
  return useRecordForm({
    name: preset.name ?? `charge:${vessel.id}`,
    parts,
    beside,
    places: PLACES,
    compose: ({ charge, old }: Bodies, texts) => {
      const plain = chargeAsTyped(charge!, texts) as Partial<Charge>;
      const typed = withBags(plain, portionsIn(texts, stock, plain, units), stock);
      // Not touched, it is filled when it is kept, not when the form was opened.
      const at = typed.filledAt === opened ? clockNowIso() : typed.filledAt!;
      return {
        charge: { ...typed, filledAt: at },
        ...(open && old ? { old: bodyWithout(endedAsTyped(open, old as Partial<Charge>, at, texts, seen)) } : {}),
      };
    },
    check: (bodies, texts, units) => {
      const old = bodies["old"] as Partial<Charge> | undefined;
      const charge = bodies["charge"] as unknown as Charge;
      return [
        ...reasonComplaints("old.ended.why", old?.ended?.why, seen, String(texts["rightReason"])),
        ...fillComplaints(charge, vessel, String(texts["rightFill"]), units),
        ...bagComplaints(charge.from ?? [], stock, charge, String(texts["rightBags"] ?? ""), units),
      ];
    },
  });
}

const bodyWithout = ({ id: _id, version: _v, voided: _b, ...body }: Record<string, unknown>) => body;

/** What a refill does to the records: the old charge ends, the new one begins, its bags are open from then on. */
export const refillSteps = (
  bodies: Bodies,
  open: Kept<"charges"> | undefined,
  bags: readonly Kept<"bags">[],
): readonly Step[] => {
  const charge = bodies["charge"] as unknown as Charge;
  return [
    ...(open ? [changed("charges", open, bodies["old"] as never)] : []),
    kept("charges", charge, newId()),
    ...openedSteps(charge.from ?? [], bags, localDate(Date.parse(charge.filledAt))),
  ];
};
