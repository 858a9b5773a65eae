import type { Id } from "../descriptor/identity";
import { firstFrom } from "../numerics/search";
import type { Arrangement, Place } from "./arrangement.record";
import type { Rig } from "./rig.record";

type Dated = Pick<Arrangement, "id" | "rigId" | "at" | "places">;

/** A vessel in a train, with the stage it stands at. */
export interface InPlace {
  readonly stageId: Id;
  readonly vesselId: Id;
}

interface Named {
  readonly at: number;
  readonly rigId: Id;
}

interface Since {
  /** Milliseconds since 1970. */
  readonly since: number;
  readonly arrangement: Dated;
}

/**
 * Who stood where when, by a crew's arrangements: each is a rig's whole train from its moment on, the first of a rig also
 * before it, and a vessel that is named elsewhere later has left.
 *
 * @example new Trains(arrangements).at("van", Date.parse("2027-03-01")) // [{ stageId: "a", vesselId: "first" }, …]
 */
export class Trains {
  private readonly ofRig = new Map<Id, Since[]>();
  private readonly ofVessel = new Map<Id, Named[]>();

  constructor(arrangements: readonly Dated[]) {
    const inTime = [...arrangements].sort(
      (a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0),
    );
    for (const each of inTime) {
      const since = Date.parse(each.at);
      this.ofRig.set(each.rigId, [...(this.ofRig.get(each.rigId) ?? []), { since, arrangement: each }]);
      for (const { vesselId } of each.places)
        if (vesselId !== undefined)
          this.ofVessel.set(vesselId, [...(this.ofVessel.get(vesselId) ?? []), { at: since, rigId: each.rigId }]);
    }
  }

  /** A rig's arrangements, oldest first. */
  of(rigId: Id): readonly Dated[] {
    return (this.ofRig.get(rigId) ?? []).map(({ arrangement }) => arrangement);
  }

  private sinceAt(rigId: Id, at: number): Since | undefined {
    const own = this.ofRig.get(rigId) ?? [];
    return own[Math.max(0, firstFrom(own.length, (i) => own[i]!.since > at) - 1)];
  }

  /** The arrangement of a rig at a moment (milliseconds); at the same moment the later-made one holds. */
  arrangementAt(rigId: Id, at: number): Dated | undefined {
    return this.sinceAt(rigId, at)?.arrangement;
  }

  /** Every place of a rig at a moment, empty ones among them, in the order the water meets them. */
  placesAt(rigId: Id, at: number): readonly Place[] {
    const known = this.sinceAt(rigId, at);
    if (!known) return [];
    const { since, arrangement } = known;
    return arrangement.places.map(({ stageId, vesselId }) =>
      vesselId === undefined || this.hasLeft(vesselId, rigId, since, at) ? { stageId } : { stageId, vesselId },
    );
  }

  /** The vessels of a rig at a moment, in the order the water meets them. */
  at(rigId: Id, at: number): readonly InPlace[] {
    return this.placesAt(rigId, at).flatMap(({ stageId, vesselId }) =>
      vesselId === undefined ? [] : [{ stageId, vesselId }],
    );
  }

  /** The rig in which a vessel stands at a moment; undefined for a spare. */
  rigOf(vesselId: Id, at: number): Id | undefined {
    const named = this.ofVessel.get(vesselId) ?? [];
    const last = named[Math.max(0, firstFrom(named.length, (i) => named[i]!.at > at) - 1)];
    return last && this.at(last.rigId, at).some((each) => each.vesselId === vesselId) ? last.rigId : undefined;
  }

  /** Every vessel that ever stood in a rig. */
  everIn(rigId: Id): ReadonlySet<Id> {
    return new Set(
      this.of(rigId).flatMap(({ places }) =>
        places.flatMap(({ vesselId }) => (vesselId === undefined ? [] : [vesselId])),
      ),
    );
  }

  /** Rigs that share a vessel with a rig, directly or by others between them; itself among them. */
  linkedTo(rigId: Id): ReadonlySet<Id> {
    const rigs = new Set([rigId]);
    for (const each of rigs)
      for (const vesselId of this.everIn(each))
        for (const named of this.ofVessel.get(vesselId) ?? []) rigs.add(named.rigId);
    return rigs;
  }

  /** Named elsewhere since; before a rig's first arrangement its vessels may have stood elsewhere. */
  private hasLeft(vesselId: Id, rigId: Id, since: number, at: number): boolean {
    const elsewhere = (this.ofVessel.get(vesselId) ?? []).filter((named) => named.rigId !== rigId && named.at <= at);
    return at < since ? elsewhere.length > 0 : elsewhere.some((named) => named.at > since);
  }
}

/** The places of a rig's train as they are to be arranged: its resin stages in their order, each with who stands there now. */
export const placesOf = ({ id, stages }: Pick<Rig, "id" | "stages">, trains: Trains, at: number): readonly Place[] => {
  const now = new Map(trains.placesAt(id, at).map(({ stageId, vesselId }) => [stageId, vesselId]));
  return stages.flatMap((stage): Place[] => {
    if (stage.kind !== "resin") return [];
    const vesselId = now.get(stage.id);
    return [vesselId === undefined ? { stageId: stage.id } : { stageId: stage.id, vesselId }];
  });
};
