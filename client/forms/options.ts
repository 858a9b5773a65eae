import type { ChoiceField, Holds } from "@winter-bead/core/src/descriptor/field";
import type { Option } from "../ui/boxes";

/** A field's choices, each with its word. @example optionsOf(USE)[0] // { value: "glass", label: "Glass" } */
export const optionsOf = <V extends string>({ of }: ChoiceField & Holds<V>): readonly Option<V>[] =>
  Object.entries(of).map(([value, label]) => ({ value: value as V, label }));
