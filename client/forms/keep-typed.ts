import type { Done } from "../data/store";
import { go } from "../ui/go";
import { showToast } from "../ui/toast";
import type { Bodies } from "./resolve";
import type { RecordForm } from "./useRecordForm";

/** What was done with what was typed. */
export interface KeptForm extends Done {
  /** Said after it, with the way back; absent where the place itself shows both. */
  readonly words?: string;
  /** Where it leads; absent to stay. */
  readonly away?: string;
}

let keeping = false;

/**
 * Checks what was typed, keeps it, says so with the way back and leads on; where something is wrong, the form says it. A
 * second press while the first one is at work does nothing.
 */
export async function keepTyped(form: RecordForm, keep: (bodies: Bodies) => Promise<KeptForm>): Promise<void> {
  if (keeping) return;
  keeping = true;
  try {
    const bodies = await form.checked();
    if (!bodies) return;
    const { words, away, undo } = await keep(bodies);
    form.startAgain();
    form.forget();
    if (words !== undefined) showToast({ words, undo });
    if (away !== undefined) go(away);
  } finally {
    keeping = false;
  }
}
