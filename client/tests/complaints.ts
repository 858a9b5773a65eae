import type { RecordKind } from "@winter-bead/contract";
import { fieldErrorsOf, type FieldError } from "@winter-bead/contract/src/problem";
import { RECORDS } from "@winter-bead/contract/src/records";

/** What the server would say of a record. */
export function complaintsAbout(kind: RecordKind, body: object): readonly FieldError[] {
  const checked = RECORDS[kind].safeParse(JSON.parse(JSON.stringify(body)));
  return checked.success ? [] : fieldErrorsOf(checked.error);
}
