import type { RecordKind } from "@winter-bead/contract";
import { KINDS } from "@winter-bead/core";
import type { Field, Fields } from "@winter-bead/core/src/descriptor/field";
import { useEffect, useMemo, useRef, useState } from "react";
import { useForm, type FieldErrors, type UseFormReturn } from "react-hook-form";
import { nameHere } from "../data/example";
import { forgetOnDevice, jsonOnDevice, keepOnDevice } from "../data/on-device";
import { useSettings } from "../data/settings";
import type { Units } from "../ui/format";
import { useHalfFilled } from "../ui/half-filled";
import { liveFault } from "./live";
import type { Bodies, Complaint, complaintsOf } from "./resolve";
import { bodyFrom, differing, fieldAt, laidOver, textsIn, textsOf, type Texts } from "./texts";

const PREFIX = `${nameHere("winter-bead-form")}:`;

/** One record of a form: its kind, and the body that the form starts from. */
export interface Part {
  readonly kind: RecordKind;
  readonly before: Readonly<Record<string, unknown>>;
}

export type Parts = Readonly<Record<string, Part>>;

interface FormOptions {
  /** What is typed survives a closed tab under this name. */
  readonly name: string;
  readonly parts: Parts;
  /** What is typed beside the records' own fields. */
  readonly beside?: Texts;
  /** The bodies as the texts beside have it: stages from a choice, a volume from a height. */
  readonly compose?: (bodies: Bodies, beside: Texts, units: Units) => Bodies;
  /** What only this form can know. */
  readonly check?: (bodies: Bodies, beside: Texts, units: Units) => readonly Complaint[];
  /** Where a complaint about a field that is not in sight belongs: `rig.stages` to `beside.before`. */
  readonly places?: Readonly<Record<string, string>>;
}

interface Draft {
  readonly units: Units;
  readonly texts: Texts;
}

function savedDraft(name: string): Draft | undefined {
  const draft = jsonOnDevice<Partial<Draft>>(PREFIX + name);
  return draft?.units && draft.texts ? (draft as Draft) : undefined;
}

const BESIDE = "beside";
const NOTHING: Texts = {};

const fieldsOf = (parts: Parts) =>
  Object.fromEntries(
    Object.entries(parts).map(([part, { kind }]) => [
      part,
      { is: "group", called: KINDS[kind].one, fields: KINDS[kind].fields, rules: [] } as const,
    ]),
  );

/** Without the pieces that check, as without a signal, nothing is complained about here: the server checks every write. */
async function complaints(...asked: Parameters<typeof complaintsOf>): Promise<FieldErrors<Texts>> {
  try {
    const { complaintsOf } = await import("../features/on-demand");
    return await complaintsOf(...asked);
  } catch {
    return {};
  }
}

interface Fault {
  readonly path: string;
  readonly message: string;
}

/** The sentence about a number that is outside its range, in the units that it was typed in. */
function inOwnUnits(fields: Fields, path: string, texts: Texts, units: Units): string | undefined {
  const text = path
    .split(".")
    .reduce<Texts[string] | undefined>((node, step) => (typeof node === "object" ? node[step] : undefined), texts);
  if (typeof text !== "string" || path.startsWith(`${BESIDE}.`)) return undefined;
  return liveFault(fieldAt(fields, path), text, units);
}

const isFault = (node: unknown): node is { readonly message: string } =>
  typeof (node as { message?: unknown } | undefined)?.message === "string";

/** Every complaint with its place, whatever depth it stands in. */
function faultsIn(errors: unknown, path = ""): readonly Fault[] {
  if (isFault(errors)) return [{ path, message: errors.message }];
  if (errors === null || typeof errors !== "object") return [];
  return Object.entries(errors).flatMap(([name, below]) =>
    name === "ref" ? [] : faultsIn(below, path === "" ? name : `${path}.${name}`),
  );
}

export interface RecordForm extends UseFormReturn<Texts> {
  readonly units: Units;
  readonly fieldOf: (path: string) => Field;
  /** The bodies that stand there now, checked or not. */
  readonly bodiesNow: () => Bodies;
  readonly beside: () => Texts;
  /** In one sentence, what needs another look; read out. */
  readonly trouble: string | undefined;
  /** Checks all of it; the first fault comes into view and has the focus. @returns the bodies, where there is none */
  readonly checked: () => Promise<Bodies | undefined>;
  readonly forget: () => void;
  /** Everything is as it was before anything was typed. */
  readonly startAgain: () => void;
}

/** The first field at fault comes into view and takes the focus. */
function goToFault(root: ParentNode = document): void {
  const field = root.querySelector<HTMLElement>('form [aria-invalid="true"], [data-form] [aria-invalid="true"]');
  if (!field) return;
  field.scrollIntoView({ block: "center" });
  const target = field.matches("input, select, textarea")
    ? field
    : field.querySelector<HTMLElement>('[tabindex="0"], input, select');
  target?.focus({ preventScroll: true });
}

const inWords = (faults: readonly Fault[]) => {
  const [first] = faults;
  if (!first) return undefined;
  return faults.length === 1 ? first.message : `${faults.length} figures need another look. ${first.message}`;
};

/**
 * A form over one or several records: its fields, their words, units and checks come from the records' descriptors. What is
 * typed survives a closed tab, and is converted where the units are switched meanwhile.
 */
export function useRecordForm(options: FormOptions): RecordForm {
  const { name, parts, beside = NOTHING, compose, check, places = {} } = options;
  const { units } = useSettings();
  const fields = useMemo(() => fieldsOf(parts), [parts]);
  const before = useMemo(
    () => Object.fromEntries(Object.entries(parts).map(([part, each]) => [part, each.before])),
    [parts],
  );
  const start = useMemo<Texts>(
    () => ({ ...textsOf(fields, before, units), [BESIDE]: beside }),
    [fields, before, units, beside],
  );
  const form = useForm<Texts>({
    defaultValues: useMemo(() => {
      const draft = savedDraft(name);
      return (draft ? laidOver(start, textsIn(fields, draft.texts, draft.units, units)) : start) as never;
      // Read once: what is typed later must not be overwritten.
      // eslint-disable-next-line react-hooks/exhaustive-deps
    }, [name, units]),
  });
  useEffect(() => {
    const { unsubscribe } = form.watch((texts) => {
      const texts_ = differing(texts as Texts, start);
      if (texts_) keepOnDevice(PREFIX + name, JSON.stringify({ units, texts: texts_ } satisfies Draft));
      else forgetOnDevice(PREFIX + name);
    });
    return unsubscribe;
  }, [form, name, units, start]);
  // Each typed letter is seen at once by whatever is said of it.
  useHalfFilled(differing(form.watch() as Texts, start) !== undefined);
  const began = useRef(start);
  useEffect(() => {
    if (began.current === start) return;
    // What the form starts from has changed, as when the records came in: what was typed stays over it.
    const typed = differing(form.getValues(), began.current);
    began.current = start;
    form.reset(laidOver(start, typed), { keepErrors: true });
  }, [form, start]);
  const [trouble, setTrouble] = useState<string>();
  const wanted = useRef(false);
  useEffect(() => {
    if (!wanted.current) return;
    wanted.current = false;
    goToFault();
  });

  const besideNow = () => (form.getValues()[BESIDE] ?? {}) as Texts;
  const bodiesNow = (): Bodies => {
    const bodies = bodyFrom(fields, form.getValues(), before, units) as Bodies;
    return compose ? compose(bodies, besideNow(), units) : bodies;
  };
  const checked = async () => {
    form.clearErrors();
    const bodies = bodiesNow();
    const kinds = Object.fromEntries(Object.entries(parts).map(([part, { kind }]) => [part, kind]));
    const errors = await complaints(kinds, bodies, (all) => check?.(all, besideNow(), units) ?? []);
    const faults = faultsIn(errors).map(({ path, message }) => ({
      path: places[path] ?? path,
      message: inOwnUnits(fields, path, form.getValues(), units) ?? message,
    }));
    setTrouble(inWords(faults));
    if (faults.length === 0) return bodies;
    for (const { path, message } of faults) form.setError(path as never, { message });
    wanted.current = true;
    return undefined;
  };
  return {
    ...form,
    units,
    fieldOf: (path) => fieldAt(fields, path),
    bodiesNow,
    beside: besideNow,
    trouble,
    checked,
    forget: () => forgetOnDevice(PREFIX + name),
    startAgain: () => {
      setTrouble(undefined);
      form.reset(start);
    },
  };
}
