import { useSyncExternalStore } from "react";
import { useSettings } from "../data/settings";
import { PALETTES, type Palette } from "./theme";

const query = "(prefers-color-scheme: dark)";

function subscribe(listener: () => void) {
  const media = matchMedia(query);
  media.addEventListener("change", listener);
  return () => media.removeEventListener("change", listener);
}

/** Light or dark, as chosen, else as the device says. */
export function useThemeName(): "light" | "dark" {
  const { theme } = useSettings();
  const deviceIsDark = useSyncExternalStore(
    subscribe,
    () => matchMedia(query).matches,
    () => false,
  );
  if (theme !== "auto") return theme;
  return deviceIsDark ? "dark" : "light";
}

/** Colours by role, for drawings. */
export const usePalette = (): Palette => PALETTES[useThemeName()];
