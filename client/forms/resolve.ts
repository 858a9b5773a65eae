import { zodResolver } from "@hookform/resolvers/zod";
import { RECORDS, type RecordKind } from "@winter-bead/contract/src/records";
import type { FieldErrors } from "react-hook-form";
import { z } from "zod";
import type { Texts } from "./texts";

/** A complaint beside its field. */
export interface Complaint {
  readonly path: string;
  readonly message: string;
}

export type Bodies = Readonly<Record<string, Record<string, unknown>>>;

/**
 * Checks bodies by the contract's own schemas, the ones that the server goes by.
 * @param kinds the kind of each part of the form
 * @param more what only this form can know
 */
export async function complaintsOf(
  kinds: Readonly<Record<string, RecordKind>>,
  bodies: Bodies,
  more: (bodies: Bodies) => readonly Complaint[],
): Promise<FieldErrors<Texts>> {
  const schema = z
    .object(Object.fromEntries(Object.keys(bodies).map((part) => [part, RECORDS[kinds[part]!]])))
    .catchall(z.unknown());
  const checked = zodResolver(schema as never);
  const { errors } = await checked(bodies as never, undefined, { fields: {}, shouldUseNativeValidation: false });
  const own = Object.fromEntries(more(bodies).map(({ path, message }) => [path, { type: "custom", message }]));
  return { ...nested(own), ...(errors as FieldErrors<Texts>) };
}

function nested(flat: Readonly<Record<string, unknown>>): FieldErrors<Texts> {
  const tree: Record<string, unknown> = {};
  for (const [path, value] of Object.entries(flat)) {
    const steps = path.split(".");
    let node = tree;
    for (const step of steps.slice(0, -1)) node = (node[step] ??= {}) as Record<string, unknown>;
    node[steps[steps.length - 1]!] = value;
  }
  return tree as FieldErrors<Texts>;
}
