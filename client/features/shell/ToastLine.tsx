import { View } from "@tamagui/core";
import { Pressable } from "../../ui/boxes";
import { hideToast, undoLast, useToast } from "../../ui/toast";
import { Strong } from "../../ui/words";

/**
 * A short word after a deed, with the way back.
 * @param passing only what passes: where there is no room for what stands, it waits until there is
 */
export function ToastLine({ passing = false }: { readonly passing?: boolean }) {
  const toast = useToast();
  if (!toast || (passing && toast.undo)) return null;
  return (
    <View
      role="status"
      aria-live="polite"
      testID="toast"
      className="not-printed"
      flexDirection="row"
      alignItems="center"
      justifyContent="space-between"
      gap="$3"
      backgroundColor="$ink"
      paddingHorizontal="$4"
      minHeight={52}
    >
      <Strong color="$onInk" flexShrink={1}>
        {toast.words}
      </Strong>
      <View flexDirection="row" gap="$2">
        {toast.undo ? (
          <Pressable onPress={() => void undoLast()} testID="undo">
            <Strong color="$onInk" textDecorationLine="underline">
              Undo
            </Strong>
          </Pressable>
        ) : null}
        <Pressable onPress={hideToast} testID="put-toast-away" aria-label="Put this line away">
          <Strong color="$onInk">✕</Strong>
        </Pressable>
      </View>
    </View>
  );
}
