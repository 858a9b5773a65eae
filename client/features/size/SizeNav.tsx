import { View } from "@tamagui/core";
import { memo } from "react";
import { usePathname } from "expo-router";
import { Pressable } from "../../ui/boxes";
import { Body } from "../../ui/words";

const PLACES = [
  { path: "/size", name: "Litres" },
  { path: "/size/vessel", name: "Vessel" },
  { path: "/size/membrane", name: "RO" },
  { path: "/size/claims", name: "Claims" },
  { path: "/size/habits", name: "Habits" },
  { path: "/size/plans", name: "Plans" },
  { path: "/size/prices", name: "Prices" },
] as const;

const isHere = (path: string, place: string) => (place === "/size" ? path === place : path.startsWith(place));

/** The places of sizing, all in sight: where it is narrow on two lines. */
export const SizeNav = memo(function SizeNav() {
  const path = usePathname();
  return (
    <View
      role="navigation"
      aria-label="Sizing"
      flexDirection="row"
      flexWrap="wrap"
      columnGap={2}
      marginBottom={12}
      marginTop={-4}
    >
      {PLACES.map((place) => {
        const chosen = isHere(path, place.path);
        return (
          <Pressable
            key={place.path}
            aria-current={chosen ? "page" : undefined}
            href={place.path}
            paddingHorizontal={7}
            borderBottomWidth={3}
            borderBottomColor={chosen ? "$ink" : "transparent"}
          >
            <Body fontWeight={chosen ? "800" : "400"}>{place.name}</Body>
          </Pressable>
        );
      })}
    </View>
  );
});
