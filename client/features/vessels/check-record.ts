import { fieldErrorsOf } from "@winter-bead/contract/src/problem";
import { RECORDS, type RecordKind } from "@winter-bead/contract/src/records";
import type { Complaint } from "../../ui/form";

/** What the server would say of a record, asked here first, so that a form can answer at once. */
export function complaintsAbout(kind: RecordKind, body: object): readonly Complaint[] {
  const checked = RECORDS[kind].safeParse(JSON.parse(JSON.stringify(body)));
  return checked.success ? [] : fieldErrorsOf(checked.error);
}
