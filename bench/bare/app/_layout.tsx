import "@tamagui/polyfill-dev";
import { createFont, createTamagui, createTokens, TamaguiProvider } from "@tamagui/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Slot } from "expo-router";

const size = { 1: 16, true: 16 };
const font = createFont({
  family: "sans-serif",
  size,
  lineHeight: size,
  weight: { 1: "400", true: "400" },
  letterSpacing: { 1: 0, true: 0 },
});
const tokens = createTokens({ color: {}, space: size, size, radius: size, zIndex: { 1: 0, true: 0 } });
const config = createTamagui({
  tokens,
  themes: { light: { ink: "#000000" } },
  fonts: { body: font },
  settings: { defaultFont: "body", styleCompat: "web" },
});
const client = new QueryClient();

/** The stack without the product: router, interface and query library around one line of text. */
export default function Layout() {
  return (
    <QueryClientProvider client={client}>
      <TamaguiProvider config={config} defaultTheme="light">
        <Slot />
      </TamaguiProvider>
    </QueryClientProvider>
  );
}
