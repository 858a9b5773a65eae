import "@tamagui/polyfill-dev";
import { Slot } from "expo-router";
import { AppShell } from "../features/shell/AppShell";

export default function Layout() {
  return (
    <AppShell>
      <Slot />
    </AppShell>
  );
}
