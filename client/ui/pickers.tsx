import { View } from "@tamagui/core";
import { useId, type CSSProperties } from "react";
import { FieldFrame } from "./fields";
import type { Option } from "./boxes";
import { usePalette, useThemeName } from "./palette";

interface PickerProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  readonly testID?: string | undefined;
}

/** The platform's own picker, in the house's frame. */
function useLook(): CSSProperties {
  const { ink } = usePalette();
  const colorScheme = useThemeName();
  return {
    ...{ flex: 1, minWidth: 0, minHeight: 46, border: 0, padding: 0, margin: 0, background: "transparent" },
    ...{ color: ink, font: "inherit", fontSize: "1.125rem", outline: "none", colorScheme },
  };
}

function Picked({ type, ...props }: PickerProps & { readonly type: "date" | "datetime-local" }) {
  const id = useId();
  const look = useLook();
  const { label, value, onChange, hint, error, testID } = props;
  return (
    <FieldFrame id={id} label={label} hint={hint} error={error} wide>
      <input
        id={id}
        type={type}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        data-testid={testID}
        aria-invalid={error !== undefined}
        aria-describedby={hint || error ? `${id}-note` : undefined}
        style={look}
      />
    </FieldFrame>
  );
}

/** A day, by the platform's own picker. */
export const DateField = (props: PickerProps) => <Picked {...props} type="date" />;
/** A day and a time of it, here. */
export const MomentField = (props: PickerProps) => <Picked {...props} type="datetime-local" />;

/** One of many, by the platform's own list. */
export function SelectField<V extends string>({
  label,
  value,
  options,
  onChange,
  hint,
  error,
  testID,
}: Omit<PickerProps, "onChange"> & {
  readonly options: readonly Option<V>[];
  readonly onChange: (value: V) => void;
}) {
  const id = useId();
  const look = useLook();
  const { card } = usePalette();
  return (
    <FieldFrame id={id} label={label} hint={hint} error={error} wide>
      <select
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value as V)}
        data-testid={testID}
        aria-invalid={error !== undefined}
        aria-describedby={hint || error ? `${id}-note` : undefined}
        style={look}
      >
        {options.some((option) => option.value === value) ? null : (
          <option value={value} style={{ background: card }}>
            {value}
          </option>
        )}
        {options.map((option) => (
          <option key={option.value} value={option.value} style={{ background: card }}>
            {option.label}
          </option>
        ))}
      </select>
    </FieldFrame>
  );
}

const names = new Intl.DisplayNames(["en"], { type: "currency" });
/** Currencies of the platform, each with its name. */
const currencies = (): readonly Option<string>[] =>
  Intl.supportedValuesOf("currency").map((code) => ({ value: code, label: `${code}, ${names.of(code) ?? code}` }));

export const CurrencyField = (props: PickerProps) => <SelectField {...props} options={currencies()} />;

/** Fields that belong to one form; a fault in it is looked for here. */
export const FormBox = ({ children }: { readonly children: React.ReactNode }) => (
  <View gap="$4" {...({ "data-form": true } as object)}>
    {children}
  </View>
);
