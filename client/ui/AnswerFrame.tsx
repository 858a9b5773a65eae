import { styled, View } from "@tamagui/core";

/** Where an answer stays in sight over its inputs; its height is kept, so that nothing jumps. */
export const AnswerFrame = styled(View, {
  name: "AnswerFrame",
  minHeight: 98,
  justifyContent: "center",
  backgroundColor: "$card",
  borderBottomColor: "$ink",
  borderBottomWidth: 2,
  paddingHorizontal: 18,
  paddingVertical: 6,
});
