import type { Act, Put } from "@winter-bead/contract";
import { upcast } from "@winter-bead/core";
import { referencesIn } from "@winter-bead/core/src/descriptor/references";
import { In, type EntityManager } from "typeorm";
import { keyOf, versionsOf, type Named, type Newest } from "./many";
import { ACTS, type StoredKinds } from "./tables";

/** A record that an act names, where, and the put that does. */
export interface NamedBy extends Named {
  readonly path: string;
  readonly by: Put;
}

/** The moment that a UUIDv7 was made, in milliseconds; undefined where it tells none. */
export const madeAt = (id: string): number | undefined =>
  id[14] === "7" ? Number.parseInt(id.slice(0, 8) + id.slice(9, 13), 16) : undefined;

/**
 * Which of these may name what was taken back: what named it before already, and what was logged before anybody could know,
 * where there was no signal.
 */
export async function takenBackBefore(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  act: Act,
  gone: readonly NamedBy[],
  newest: ReadonlyMap<string, Newest>,
): Promise<ReadonlySet<NamedBy>> {
  const voids = await manager.findBy(ACTS, { crewId, id: In(gone.map((each) => newest.get(keyOf(each))!.actId)) });
  const knownSince = new Map(voids.map(({ id, acceptedAt }) => [id, acceptedAt.getTime()]));
  const changed = gone.flatMap(({ by: { kind, id, replaces } }) =>
    replaces === undefined ? [] : [{ kind, id, version: replaces }],
  );
  const before = await versionsOf(manager, crewId, changed);
  const namedBefore = ({ by, kind: to, id }: NamedBy) => {
    const version = before.get(keyOf(by));
    const { kind } = kinds[by.kind]!;
    if (!version?.body) return false;
    return referencesIn(kind, upcast(kind, version.body, version.shape)).some(
      (each) => each.to === to && each.id === id,
    );
  };
  const loggedBefore = (each: NamedBy) =>
    each.by.replaces === undefined &&
    kinds[each.by.kind]!.kind.logged === true &&
    (madeAt(each.by.id) ?? Date.parse(act.at)) < knownSince.get(newest.get(keyOf(each))!.actId)!;
  return new Set(gone.filter((each) => namedBefore(each) || loggedBefore(each)));
}
