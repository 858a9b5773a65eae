import { Circle, G, Path } from "react-native-svg";
import type { Palette } from "../../ui/theme";
import type { Point } from "./vessel-shape";

/** What is looked at: a ring; where no bead may be: a cross. */
export const Marks = ({
  looks,
  crosses,
  colours,
}: {
  readonly looks: readonly Point[];
  readonly crosses: readonly Point[];
  readonly colours: Palette;
}) => (
  <G>
    {looks.map(({ x, y }) => (
      <Circle
        key={`${x} ${y}`}
        cx={x}
        cy={y}
        r={12}
        fill="none"
        stroke={colours.ink}
        strokeWidth={2}
        strokeDasharray="4 3"
      />
    ))}
    {crosses.map(({ x, y }) => (
      <Path
        key={`${x} ${y}`}
        d={`M${x - 6} ${y - 6}l12 12M${x + 6} ${y - 6}l-12 12`}
        stroke={colours.rowan}
        strokeWidth={3}
        strokeLinecap="round"
      />
    ))}
  </G>
);
