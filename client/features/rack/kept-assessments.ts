import { jsonOnDevice, keepOnDevice } from "../../data/on-device";
import { nameHere } from "../../data/example";
import type { Id, Standing } from "@winter-bead/core";
import type { Assessment } from "./assess";

/** An answer with the time it was worked out, milliseconds since 1970. */
export interface KeptAssessment {
  readonly assessment: Assessment;
  readonly at: number;
}

const PREFIX = `${nameHere("winter-bead-standing")}:`;
/** Of the answers' shape: one of another version of the app is not read. */
const SHAPE = 3;
/** More than this is not worth the room: the next answer is soon there. */
const LARGEST = 100_000;

const known = new Map<Id, KeptAssessment>();

/** The last answer about a rig, from this visit of the app or the one before: it stands, with its age, until a newer one. */
export function lastAssessment(rig: Id): KeptAssessment | undefined {
  const here = known.get(rig);
  if (here) return here;
  const kept = jsonOnDevice<KeptAssessment & { readonly shape?: number }>(PREFIX + rig);
  if (kept?.shape !== SHAPE) return undefined;
  known.set(rig, kept);
  return kept;
}

/** What is shown of an answer; visits and what was learnt are found again in the records. */
function shownPart({ owners: _, standing, beds, ...rest }: Assessment): Assessment {
  const short = (where: Standing): Standing => ({ ...where, ledger: { ...where.ledger, lines: [] } });
  return {
    ...rest,
    ...(standing ? { standing: short(standing) } : {}),
    ...(beds ? { beds: beds.map((bed) => ({ ...bed, standing: short(bed.standing) })) } : {}),
  };
}

export function keepAssessment(rig: Id, assessment: Assessment): KeptAssessment {
  const kept = { assessment, at: Date.now() };
  known.set(rig, kept);
  const text = JSON.stringify({ ...kept, shape: SHAPE, assessment: shownPart(assessment) });
  // Without room the next start waits for its answer a moment longer.
  if (text.length <= LARGEST) keepOnDevice(PREFIX + rig, text);
  return kept;
}
