import { TamaguiProvider, View } from "@tamagui/core";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { router, usePathname } from "expo-router";
import { useEffect, useState, type ReactNode } from "react";
import { onRestored, persistOptions, queryClient, useOutbox } from "../../data/store";
import { Card, Pressable, TextButton } from "../../ui/boxes";
import { useThemeName } from "../../ui/palette";
import { useWide } from "../../ui/Screen";
import { hideToast, useToast } from "../../ui/toast";
import { config } from "../../ui/theme";
import { Body, Heading, Small, Strong } from "../../ui/words";

const PLACES = [
  { path: "/", name: "Rack" },
  { path: "/water", name: "Water" },
  { path: "/size", name: "Size" },
  { path: "/why", name: "Why" },
  { path: "/setup", name: "Setup" },
] as const;
/** On the wide rail only; a phone comes to it from Water. */
const RAIL_PLACES = [...PLACES, { path: "/lab", name: "Lab" }] as const;

const SHORTCUTS: readonly (readonly [string, string])[] = [
  ...RAIL_PLACES.map(({ name }, i) => [String(i + 1), name] as const),
  ["L", "Log a reading"],
  [",", "Settings"],
  ["?", "This list"],
];

const isHere = (path: string, place: string, wide: boolean) =>
  place === "/"
    ? path === "/" || path.startsWith("/log")
    : path.startsWith(place) || (place === "/water" && !wide && path.startsWith("/lab"));

/** What waits on this device, in two words. */
function useSentWords(): string {
  const { items, reach } = useOutbox();
  const refused = items.filter((item) => item.refused).length;
  const waiting = items.length - refused;
  if (refused > 0) return `${refused} not taken`;
  if (waiting > 0) return reach === "out-of-reach" ? `${waiting} wait for signal` : `${waiting} to send`;
  return reach === "out-of-reach" ? "no signal" : "all sent";
}

function SentState() {
  const words = useSentWords();
  return (
    <Pressable
      onPress={() => router.push("/settings")}
      minHeight={48}
      alignItems="flex-start"
      testID="sent-state"
      aria-label={`${words}; settings and what is unsent`}
    >
      <Small role="status">{words}</Small>
    </Pressable>
  );
}

function Rail({ path, onKeys }: { readonly path: string; readonly onKeys: () => void }) {
  return (
    <View
      role="navigation"
      width={148}
      padding="$4"
      gap="$2"
      borderRightColor="$line"
      borderRightWidth={1}
      backgroundColor="$card"
    >
      <Strong fontSize="$3" lineHeight={21} marginBottom="$3">
        Winter{"\n"}Bead
      </Strong>
      {RAIL_PLACES.map(({ path: place, name }, i) => {
        const here = isHere(path, place, true);
        return (
          <Pressable
            key={place}
            onPress={() => router.navigate(place)}
            role="link"
            aria-current={here ? "page" : undefined}
            flexDirection="row"
            justifyContent="space-between"
            paddingHorizontal="$3"
            borderRadius="$2"
            backgroundColor={here ? "$ink" : "transparent"}
          >
            <Strong color={here ? "$onInk" : "$ink"} fontWeight={here ? "700" : "400"}>
              {name}
            </Strong>
            <Small color={here ? "$onInk" : "$soft"} aria-hidden>
              {i + 1}
            </Small>
          </Pressable>
        );
      })}
      <View flex={1} />
      <SentState />
      <TextButton onPress={() => router.push("/settings")}>Settings</TextButton>
      <TextButton onPress={onKeys}>Keys: ?</TextButton>
    </View>
  );
}

function Tabs({ path }: { readonly path: string }) {
  return (
    <View role="navigation" flexDirection="row" borderTopColor="$line" borderTopWidth={1} backgroundColor="$card">
      {PLACES.map(({ path: place, name }) => {
        const here = isHere(path, place, false);
        return (
          <Pressable
            key={place}
            onPress={() => router.navigate(place)}
            role="link"
            aria-current={here ? "page" : undefined}
            flex={1}
            height={58}
            gap="$1"
          >
            <View width={here ? 28 : 8} height={4} borderRadius={2} backgroundColor={here ? "$ink" : "$line"} />
            <Body fontSize={15} fontWeight={here ? "800" : "400"} whiteSpace="nowrap">
              {name}
            </Body>
          </Pressable>
        );
      })}
    </View>
  );
}

function KeyList({ onClose }: { readonly onClose: () => void }) {
  return (
    <View
      position="absolute"
      top={0}
      left={0}
      right={0}
      bottom={0}
      alignItems="center"
      justifyContent="center"
      zIndex="$2"
      role="dialog"
      aria-label="Keys"
    >
      <Card minWidth={280} borderColor="$ink">
        <Heading>Keys</Heading>
        {SHORTCUTS.map(([key, what]) => (
          <Body key={key}>
            <Strong>{key}</Strong> {what}
          </Body>
        ))}
        <TextButton onPress={onClose}>Close</TextButton>
      </Card>
    </View>
  );
}

function ToastLine() {
  const toast = useToast();
  if (!toast) return null;
  const undo = () => {
    toast.undo?.();
    hideToast();
  };
  return (
    <View
      role="status"
      aria-live="polite"
      testID="toast"
      flexDirection="row"
      alignItems="center"
      justifyContent="space-between"
      gap="$3"
      backgroundColor="$ink"
      paddingHorizontal="$4"
      minHeight={52}
    >
      <Strong color="$onInk">{toast.words}</Strong>
      {toast.undo ? (
        <Pressable onPress={undo} testID="undo">
          <Strong color="$onInk" textDecorationLine="underline">
            Undo
          </Strong>
        </Pressable>
      ) : null}
    </View>
  );
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && /^(input|textarea|select)$/i.test(target.tagName);

function useShortcuts(setKeys: (change: (shown: boolean) => boolean) => void): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (location.pathname.startsWith("/log") && /^[0-9.]$/.test(event.key)) return;
      const place = RAIL_PLACES[Number(event.key) - 1];
      if (place) router.navigate(place.path);
      else if (event.key === "?") setKeys((shown) => !shown);
      else if (event.key === "Escape") setKeys(() => false);
      else if (event.key === ",") router.push("/settings");
      else if (event.key.toLowerCase() === "l")
        document.querySelector<HTMLElement>('[data-testid="log-a-reading"]')?.click();
    };
    document.addEventListener("keydown", onKeyDown);
    return () => document.removeEventListener("keydown", onKeyDown);
  }, [setKeys]);
}

function Frame({ children }: { readonly children: ReactNode }) {
  const wide = useWide();
  const path = usePathname();
  const [keys, setKeys] = useState(false);
  useShortcuts(setKeys);
  const logging = path.startsWith("/log");
  return (
    <View
      flex={1}
      flexDirection={wide ? "row" : "column"}
      position="relative"
      backgroundColor="$paper"
      minHeight={0}
      height="100%"
    >
      {wide ? <Rail path={path} onKeys={() => setKeys(true)} /> : null}
      {!wide && !logging ? (
        <View alignItems="flex-end" paddingHorizontal={18} marginBottom={-14} zIndex="$1">
          <SentState />
        </View>
      ) : null}
      <View flex={1} minHeight={0} minWidth={0}>
        <View flex={1} minHeight={0}>
          {children}
        </View>
        {wide ? <ToastLine /> : null}
      </View>
      {wide ? null : <ToastLine />}
      {wide || logging ? null : <Tabs path={path} />}
      {keys ? <KeyList onClose={() => setKeys(false)} /> : null}
    </View>
  );
}

/** Keeps the shell on the device, so that the app opens without a signal. */
function useServiceWorker(): void {
  useEffect(() => {
    if (process.env.NODE_ENV === "production" && "serviceWorker" in navigator)
      void navigator.serviceWorker.register("/sw.js");
  }, []);
}

/** Providers and frame around every place. */
export function AppShell({ children }: { readonly children: ReactNode }) {
  const theme = useThemeName();
  useServiceWorker();
  return (
    <PersistQueryClientProvider
      client={queryClient}
      persistOptions={persistOptions}
      onSuccess={onRestored}
      onError={onRestored}
    >
      <TamaguiProvider config={config} defaultTheme={theme} key={theme}>
        <Frame>{children}</Frame>
      </TamaguiProvider>
    </PersistQueryClientProvider>
  );
}
