import { usePathname } from "expo-router";
import { useEffect, useRef } from "react";
import { ScrollView, View as NativeView } from "react-native";
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

/** The places of sizing, on one line that moves sideways where it is narrow. */
export function SizeNav() {
  const path = usePathname();
  const here = useRef<HTMLElement | null>(null);
  useEffect(() => {
    // Newer browsers answer with a promise, which is no clean-up.
    void here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [path]);
  return (
    <NativeView role="navigation" aria-label="Sizing" style={{ marginBottom: 12, marginTop: -4 }}>
      <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerStyle={{ gap: 2 }}>
        {PLACES.map((place) => {
          const chosen = isHere(path, place.path);
          return (
            <Pressable
              key={place.path}
              ref={chosen ? (node: unknown) => void (here.current = node as HTMLElement | null) : undefined}
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
      </ScrollView>
    </NativeView>
  );
}
