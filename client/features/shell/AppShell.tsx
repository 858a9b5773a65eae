import { TamaguiProvider, View } from "@tamagui/core";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { router, usePathname } from "expo-router";
import { useCallback, useEffect, useState, type ReactNode } from "react";
import { NotFetched } from "../../data/fetch-again";
import { DeviceRefused } from "../../data/outbox";
import { InUse, onRestored, persistOptions, queryClient } from "../../data/store";
import { setWay } from "../../ui/go";
import { skipToPlace, useFocusOnPlace } from "../../ui/place-title";
import { useThemeName } from "../../ui/palette";
import { useWide } from "../../ui/width";
import { config } from "../../ui/theme";
import { showToast } from "../../ui/toast";
import { ExampleLine } from "./ExampleLine";
import { KeyList } from "./KeyList";
import { Rail, Tabs } from "./Navigation";
import { keepShell } from "./new-version";
import { NewVersionLine } from "./NewVersionLine";
import { SentState } from "./SentState";
import { ToastLine } from "./ToastLine";
import { useShortcuts } from "./useShortcuts";

setWay((href) => router.navigate(href));

/** The first stop of the tab key, seen only while it is that. */
function SkipLink() {
  return (
    // Its own anchor: it moves the focus within this page and leads to no other place.
    <a
      href="#place"
      className="skip-link"
      onClick={(event) => {
        event.preventDefault();
        skipToPlace();
      }}
    >
      To the content
    </a>
  );
}

function Frame({ children }: { readonly children: ReactNode }) {
  const wide = useWide();
  const path = usePathname();
  const [keys, setKeys] = useState(false);
  useShortcuts(useCallback(() => setKeys(true), []));
  useFocusOnPlace(path);
  const logging = path.startsWith("/log");
  return (
    <View
      className="frame"
      flex={1}
      flexDirection={wide ? "row" : "column"}
      position="relative"
      backgroundColor="$paper"
      minHeight={0}
      height="100%"
    >
      <SkipLink />
      {wide ? <Rail path={path} onKeys={() => setKeys(true)} /> : null}
      {!wide && !logging ? (
        <View
          render="header"
          className="not-printed"
          alignItems="flex-end"
          paddingHorizontal={18}
          marginBottom={-14}
          zIndex="$1"
        >
          <SentState />
        </View>
      ) : null}
      <View flex={1} minHeight={0} minWidth={0} className="frame">
        <NewVersionLine />
        <ExampleLine />
        <View flex={1} minHeight={0} className="frame">
          {children}
        </View>
        {wide ? <ToastLine /> : null}
      </View>
      {wide ? null : <ToastLine passing={logging} />}
      {wide || logging ? null : <Tabs path={path} />}
      {keys ? <KeyList onClose={() => setKeys(false)} /> : null}
    </View>
  );
}

/** Whatever a button was to do: where this device would not keep it, or its code did not come, it is said. */
function sayWhatFailed() {
  const say = (event: PromiseRejectionEvent) => {
    const reason = (event as { reason: unknown }).reason as Error;
    if (![DeviceRefused, NotFetched, InUse].some((expected) => reason instanceof expected)) return;
    event.preventDefault();
    showToast({ words: reason.message });
  };
  addEventListener("unhandledrejection", say);
  return () => removeEventListener("unhandledrejection", say);
}

/** Providers and frame around every place. */
export function AppShell({ children }: { readonly children: ReactNode }) {
  const theme = useThemeName();
  useEffect(keepShell, []);
  useEffect(sayWhatFailed, []);
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
