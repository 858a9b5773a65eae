import { View } from "@tamagui/core";
import { useEffect } from "react";
import { Controller, useForm, type Control, type FieldValues, type Path, type UseFormReturn } from "react-hook-form";
import { Choice, type Option } from "./boxes";
import { NumberField, TextField } from "./fields";
import { Body, Small } from "./words";

const PREFIX = "winter-bead-form:";

function savedValues<T extends FieldValues>(name: string): Partial<T> {
  try {
    return JSON.parse(localStorage.getItem(PREFIX + name) ?? "{}") as Partial<T>;
  } catch {
    return {};
  }
}

/** A form whose typed values survive a closed tab until `forget` is called. */
export function useKeptForm<T extends FieldValues>(
  name: string,
  defaults: T,
): UseFormReturn<T> & { readonly forget: () => void } {
  const form = useForm<T>({ defaultValues: { ...defaults, ...savedValues<T>(name) } as never });
  useEffect(() => {
    const { unsubscribe } = form.watch((values) => localStorage.setItem(PREFIX + name, JSON.stringify(values)));
    return unsubscribe;
  }, [form, name]);
  return { ...form, forget: () => localStorage.removeItem(PREFIX + name) };
}

interface BoundProps<T extends FieldValues> {
  readonly control: Control<T>;
  readonly name: Path<T>;
  readonly label: string;
  readonly unit?: string;
  readonly hint?: string;
}

export const FormText = <T extends FieldValues>({ control, name, ...rest }: BoundProps<T>) => (
  <Controller
    control={control}
    name={name}
    render={({ field, fieldState }) => (
      <TextField
        {...rest}
        testID={`field-${name}`}
        value={String(field.value ?? "")}
        onChange={field.onChange}
        {...(fieldState.error?.message ? { error: fieldState.error.message } : {})}
      />
    )}
  />
);

export const FormNumber = <T extends FieldValues>({ control, name, ...rest }: BoundProps<T>) => (
  <Controller
    control={control}
    name={name}
    render={({ field, fieldState }) => (
      <NumberField
        {...rest}
        testID={`field-${name}`}
        value={String(field.value ?? "")}
        onChange={field.onChange}
        {...(fieldState.error?.message ? { error: fieldState.error.message } : {})}
      />
    )}
  />
);

export function FormChoice<T extends FieldValues, V extends string>({
  control,
  name,
  label,
  options,
  onChosen,
}: BoundProps<T> & { readonly options: readonly Option<V>[]; readonly onChosen?: (value: V) => void }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <View gap="$1">
          <Choice
            label={label}
            value={field.value as V}
            options={options}
            onChange={(value) => {
              field.onChange(value);
              onChosen?.(value);
            }}
          />
          {fieldState.error?.message ? <Small color="$rowan">{fieldState.error.message}</Small> : null}
        </View>
      )}
    />
  );
}

/** Complaints that belong to no field in sight. */
export const FormTrouble = ({ words }: { readonly words: string | undefined }) =>
  words ? (
    <Body role="alert" color="$rowan">
      {words}
    </Body>
  ) : null;

export interface Complaint {
  readonly path: string;
  readonly message: string;
}

/** Puts each complaint beside its field; what fits nowhere is returned as one sentence. */
export function placeComplaints<T extends FieldValues>(
  form: UseFormReturn<T>,
  complaints: readonly Complaint[],
  fieldOf: Readonly<Record<string, Path<T>>>,
): string | undefined {
  const homeless: string[] = [];
  for (const { path, message } of complaints) {
    const field = fieldOf[path] ?? (path in form.getValues() ? (path as Path<T>) : undefined);
    if (field) form.setError(field, { message });
    else homeless.push(message);
  }
  return homeless.length > 0 ? homeless.join(" ") : undefined;
}
