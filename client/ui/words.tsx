import { styled, Text } from "@tamagui/core";

/** The house's type: one face, few sizes, tabular figures. */
export const Body = styled(Text, {
  name: "Body",
  color: "$ink",
  fontFamily: "$body",
  fontSize: "$2",
  lineHeight: "$2",
  fontWeight: "400",
});
export const Small = styled(Body, { name: "Small", fontSize: "$1", lineHeight: "$1", color: "$soft" });
export const Strong = styled(Body, { name: "Strong", fontWeight: "700" });
export const Title = styled(Body, {
  name: "Title",
  render: "h1",
  fontSize: "$5",
  lineHeight: "$5",
  fontWeight: "800",
  margin: 0,
});
export const Heading = styled(Body, {
  name: "Heading",
  render: "h2",
  fontSize: "$3",
  lineHeight: "$3",
  fontWeight: "700",
  margin: 0,
});
export const Big = styled(Body, { name: "Big", fontSize: "$5", lineHeight: "$5", fontWeight: "800" });
export const Huge = styled(Body, { name: "Huge", fontSize: "$7", lineHeight: "$7", fontWeight: "800" });
