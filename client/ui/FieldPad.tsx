import { View } from "@tamagui/core";
import { useEffect, useRef, useState, type FocusEvent, type ReactNode } from "react";
import { PlainButton } from "./boxes";
import { NumberPad } from "./NumberPad";
import { OwnPad } from "./own-pad";
import { useWide } from "./width";

/** ms that the pad stays after its field is left: what is tapped instead must not move from under the finger. */
const STAYS = 250;

const isPadded = (target: EventTarget): target is HTMLInputElement =>
  target instanceof HTMLInputElement && target.inputMode === "none";

/** Writes a key of the pad where the caret stands, as the system's keyboard would. */
export function writeKey(field: HTMLInputElement, key: string): void {
  const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
  if (key === "back") field.setRangeText("", from === to ? Math.max(0, from - 1) : from, to, "end");
  else field.setRangeText(key, from, to, "end");
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

/** The field after one, in the order they are read. */
function fieldAfter(field: HTMLInputElement): HTMLInputElement | undefined {
  const all = [...document.querySelectorAll<HTMLInputElement>('#place input[inputmode="none"]')];
  return all[all.indexOf(field) + 1];
}

/** What scrolls, with the number pad under it while one of its numbers is typed; at a desk there are keys enough. */
export function WithPad({ children }: { readonly children: ReactNode }) {
  const wide = useWide();
  const [field, setField] = useState<HTMLInputElement>();
  const leaving = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    field?.scrollIntoView({ block: "center" });
    return () => clearTimeout(leaving.current);
  }, [field]);
  const enter = ({ target }: FocusEvent) => {
    if (!isPadded(target)) return;
    clearTimeout(leaving.current);
    setField(target);
    // After the tap has set its caret: the first key replaces what stood there.
    requestAnimationFrame(() => target.select());
  };
  const leave = ({ target }: FocusEvent) => {
    if (isPadded(target)) leaving.current = setTimeout(() => setField(undefined), STAYS);
  };
  const onKey = (key: string) => {
    if (field?.isConnected) writeKey(field, key);
    else setField(undefined);
  };
  const next = field && fieldAfter(field);
  return (
    <OwnPad.Provider value={!wide}>
      <View flex={1} minHeight={0} {...({ onFocus: enter, onBlur: leave } as object)}>
        {children}
        {field && !wide ? (
          <View
            testID="field-pad"
            flexDirection="row"
            gap={6}
            paddingHorizontal={12}
            paddingVertical={6}
            backgroundColor="$paper"
            borderTopColor="$line"
            borderTopWidth={1}
            // The caret stays in the field.
            {...({ onMouseDown: (event: Event) => event.preventDefault() } as object)}
          >
            <View flex={3}>
              <NumberPad onKey={onKey} />
            </View>
            <View flex={1} gap={6} justifyContent="flex-end">
              {next ? <PlainButton onPress={() => next.focus()}>Next</PlainButton> : null}
              <PlainButton onPress={() => field.blur()}>Done</PlainButton>
            </View>
          </View>
        ) : null}
      </View>
    </OwnPad.Provider>
  );
}
