import { note, text } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";

/** A place where work is done or vessels are filled. */
export const SITE = kind({
  name: "sites",
  table: "site",
  one: "site",
  many: "sites",
  fields: { name: text("The site's name", { label: "Name" }), note },
  sample: { name: "Yard by the river", note: "The gate sticks." },
});

export interface Site extends RecordOf<typeof SITE> {}
