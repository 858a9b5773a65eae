import { styled, View, type GetProps } from "@tamagui/core";
import type { MouseEvent, Ref } from "react";
import { go } from "./go";

const PressableFrame = styled(View, {
  name: "Pressable",
  render: "button",
  role: "button",
  cursor: "pointer",
  backgroundColor: "transparent",
  borderWidth: 0,
  padding: 0,
  minHeight: 48,
  minWidth: 48,
  justifyContent: "center",
  alignItems: "center",
  hoverStyle: { opacity: 0.92 },
  pressStyle: { opacity: 0.75 },
});

/** Opening beside, in a window of its own and the like are the browser's. */
const isBrowsersOwn = (event: MouseEvent) =>
  event.metaKey || event.ctrlKey || event.shiftKey || event.altKey || event.button > 0;

export type PressableProps = GetProps<typeof PressableFrame> & {
  /** Where it leads: then it is a link, which opens beside with the browser's own keys. */
  readonly href?: string | undefined;
  readonly ref?: ((node: unknown) => void) | Ref<unknown>;
};

/** Something to press: a button that does something, or a link that goes somewhere. */
export function Pressable({ href, ...rest }: PressableProps) {
  const props = rest as GetProps<typeof PressableFrame>;
  if (href === undefined) return <PressableFrame {...props} />;
  const follow = (event: unknown) => {
    const click = event as MouseEvent;
    if (isBrowsersOwn(click)) return;
    click.preventDefault();
    go(href);
  };
  return (
    <PressableFrame
      {...props}
      {...({ href } as object)}
      render="a"
      role={undefined}
      style={{ textDecorationLine: "none" }}
      onPress={follow as never}
    />
  );
}
