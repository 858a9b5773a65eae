import Svg, { Rect } from "react-native-svg";
import { View } from "@tamagui/core";
import { Small } from "../../ui/words";
import { usePalette } from "../../ui/palette";

const MOST = 6;
const SIDE = 13;
const GAP = 4;

/** Booked jobs as small boxes; those that only the usual week tells of are drawn in a broken line. */
export function JobBoxes({ booked, usual }: { readonly booked: number; readonly usual: number }) {
  const { ink, soft } = usePalette();
  const [whole, expected] = [Math.round(booked), Math.round(usual)];
  const all = whole + expected;
  const count = all > MOST ? MOST - 1 : all;
  if (count === 0) return null;
  const more = all - count;
  return (
    <View flexDirection="row" alignItems="center" gap={4}>
      <Svg width={count * (SIDE + GAP)} height={SIDE + 2} aria-hidden>
        {Array.from({ length: count }, (_, i) => (
          <Rect
            key={i}
            x={1 + i * (SIDE + GAP)}
            y={1}
            width={SIDE - 1}
            height={SIDE - 1}
            rx={3}
            fill="transparent"
            stroke={i < whole ? ink : soft}
            strokeWidth={1.6}
            {...(i < whole ? {} : { strokeDasharray: "2.5 2" })}
          />
        ))}
      </Svg>
      {more > 0 ? <Small>{`+${more}`}</Small> : null}
    </View>
  );
}
