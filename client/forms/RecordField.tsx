import type { Field } from "@winter-bead/core/src/descriptor/field";
import { labelOf } from "@winter-bead/core/src/descriptor/field";
import type { ReactNode } from "react";
import { Controller } from "react-hook-form";
import { Choice, type Option } from "../ui/boxes";
import { NumberField, TextField } from "../ui/fields";
import { CurrencyField, DateField, MomentField, SelectField } from "../ui/pickers";
import { optionsOf } from "./options";
import { scalesWith } from "./scales";
import { liveFault, unitShown } from "./live";
import type { RecordForm } from "./useRecordForm";

export interface Shown {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly error: string | undefined;
  readonly hint: string | undefined;
  readonly testID: string;
}

interface FieldProps {
  readonly form: RecordForm;
  /** Part and field, such as `vessel.marks.limit`. */
  readonly path: string;
  /** In place of the descriptor's own. */
  readonly label?: string;
  readonly hint?: string;
  readonly unit?: string;
  /** In place of the field's own choices; needed for a reference. */
  readonly options?: readonly Option<string>[];
  /** Says while it is typed what is no number, or outside its range. */
  readonly live?: boolean;
  /** After the field was changed by hand. */
  readonly onChosen?: (value: string) => void;
  /** In place of the control that its descriptor asks for. */
  readonly as?: (shown: Shown) => ReactNode;
  readonly testID?: string;
}

/** As many choices stand side by side; more go into the platform's list. */
const SIDE_BY_SIDE = 5;

const YES_NO = [
  { value: "yes", label: "Yes" },
  { value: "no", label: "No" },
] as const;

function Chosen({ options, ...shown }: Shown & { readonly options: readonly Option<string>[] }) {
  return options.length > SIDE_BY_SIDE ? (
    <SelectField {...shown} options={options} />
  ) : (
    <Choice {...shown} options={options} />
  );
}

function Control({
  field,
  shown,
  unit,
  options,
}: {
  readonly field: Field;
  readonly shown: Shown;
  readonly unit: string | undefined;
  readonly options: readonly Option<string>[] | undefined;
}) {
  switch (field.is) {
    case "number":
      return <NumberField {...shown} unit={unit} />;
    case "date":
      return <DateField {...shown} />;
    case "instant":
      return <MomentField {...shown} />;
    case "currency":
      return <CurrencyField {...shown} />;
    case "flag":
      return <Choice {...shown} options={options ?? YES_NO} />;
    case "choice":
      return <Chosen {...shown} options={options ?? optionsOf(field)} />;
    case "reference":
      return <Chosen {...shown} options={options ?? []} />;
    case "scale":
      return <Chosen {...shown} options={options ?? scalesWith(shown.value)} />;
    default:
      return <TextField {...shown} />;
  }
}

/** A field of a record, by its path: label, unit, choices, picker and the complaint beside it follow from its descriptor. */
export function RecordField({ form, path, label, hint, unit, options, live, onChosen, as, testID }: FieldProps) {
  const field = form.fieldOf(path);
  return (
    <Controller
      control={form.control}
      name={path as never}
      render={({ field: bound, fieldState }) => {
        const shown: Shown = {
          label: label ?? labelOf(field),
          value: String((bound.value as string | undefined) ?? ""),
          onChange: (text) => {
            bound.onChange(text);
            onChosen?.(text);
          },
          error:
            fieldState.error?.message ?? (live ? liveFault(field, String(bound.value ?? ""), form.units) : undefined),
          hint,
          testID: testID ?? `field-${path.split(".").pop()}`,
        };
        if (as) return <>{as(shown)}</>;
        return <Control field={field} unit={unit ?? unitShown(field, form.units)} options={options} shown={shown} />;
      }}
    />
  );
}

interface BesideProps extends Omit<FieldProps, "path" | "options" | "live" | "as"> {
  readonly name: string;
  readonly label: string;
}

/** Something typed or chosen that is no field of a record. */
export function BesideField({
  form,
  name,
  label,
  hint,
  unit,
  options,
  onChosen,
  testID,
  is,
}: BesideProps & { readonly is: "text" | "number" | "choice"; readonly options?: readonly Option<string>[] }) {
  return (
    <Controller
      control={form.control}
      name={`beside.${name}` as never}
      render={({ field: bound, fieldState }) => {
        const shown = {
          label,
          value: String((bound.value as string | undefined) ?? ""),
          onChange: (text: string) => {
            bound.onChange(text);
            onChosen?.(text);
          },
          error: fieldState.error?.message,
          hint,
          testID: testID ?? `field-${name}`,
        };
        if (is === "choice") return <Chosen {...shown} options={options ?? []} />;
        return is === "number" ? <NumberField {...shown} unit={unit} /> : <TextField {...shown} />;
      }}
    />
  );
}
