import { View } from "@tamagui/core";
import type { ReactNode } from "react";
import { ScrollView } from "react-native";
import { WithPad } from "./FieldPad";
import { usePlaceTitle } from "./place-title";
import { useScrollMemory } from "./scroll-memory";
import { useWide } from "./width";
import { Title } from "./words";

const LIST_WIDTH = 470;
const READING_WIDTH = 760;

interface ScreenProps {
  /** Its heading, and its name in the browser's title. */
  readonly title?: string;
  /** Its name in the browser's title where it has a heading of its own. */
  readonly name?: string;
  readonly children: ReactNode;
  readonly detail?: ReactNode;
  readonly footer?: ReactNode;
  /** Stays in sight above what scrolls: an answer whose inputs are typed below. */
  readonly bar?: ReactNode;
}

/** A place of the app: one scrolling column, and on a wide screen its detail beside it. */
export function Screen({ title, name, children, detail, footer, bar }: ScreenProps) {
  const wide = useWide();
  const listWidth = detail ? LIST_WIDTH : undefined;
  usePlaceTitle(name ?? title);
  const column = useScrollMemory();
  const beside = useScrollMemory("#detail");
  const scrolls = (
    <ScrollView
      {...column}
      scrollEventThrottle={100}
      style={{ flex: 1 }}
      contentContainerStyle={{
        flexGrow: 1,
        padding: wide ? 26 : 18,
        paddingTop: wide ? 26 : 6,
        paddingBottom: 28,
        maxWidth: detail ? undefined : READING_WIDTH,
        width: "100%",
        alignSelf: wide ? "flex-start" : "center",
      }}
    >
      {title ? <Title marginBottom={12}>{title}</Title> : null}
      {children}
    </ScrollView>
  );
  return (
    <View render="main" id="place" className="place" flex={1} flexDirection="row" minHeight={0}>
      <View width={listWidth} flex={detail ? undefined : 1} minHeight={0} minWidth={0} backgroundColor="$paper">
        {bar}
        {bar ? <WithPad>{scrolls}</WithPad> : scrolls}
        {footer ? <View className="not-printed">{footer}</View> : null}
      </View>
      {detail ? (
        <View
          flex={1}
          minHeight={0}
          minWidth={0}
          backgroundColor="$card"
          borderLeftColor="$line"
          borderLeftWidth={1}
          className="detail"
        >
          <ScrollView
            {...beside}
            scrollEventThrottle={100}
            style={{ flex: 1 }}
            contentContainerStyle={{ flexGrow: 1, padding: 32 }}
          >
            {detail}
          </ScrollView>
        </View>
      ) : null}
    </View>
  );
}
