import { router } from "expo-router";
import { useEffect } from "react";
import { useSettings } from "../../data/settings";
import { isHalfFilled } from "../../ui/half-filled";
import { isForThePlace } from "../../ui/keys";
import { RAIL_PLACES } from "./places";

/** One-letter keys for every place; they can be switched off, for those whose speech or hand strikes them unmeant. */
export function useShortcuts(showKeys: () => void): void {
  const { keys } = useSettings();
  useEffect(() => {
    if (keys === "off") return;
    const onKeyDown = (event: KeyboardEvent) => {
      if (!isForThePlace(event)) return;
      // While the log's code is on its way; once it is here its pad takes them first.
      if (location.pathname.startsWith("/log") && /^[0-9.,]$/.test(event.key)) return;
      if (isHalfFilled() && /^[0-9.,]$/.test(event.key)) return;
      const place = RAIL_PLACES[Number(event.key) - 1];
      if (place) router.navigate(place.path);
      else if (event.key === "?") showKeys();
      else if (event.key === ",") router.push("/settings");
      else if (event.key.toLowerCase() === "l")
        document.querySelector<HTMLElement>('[data-testid="log-a-reading"]')?.click();
    };
    document.addEventListener("keydown", onKeyDown);
    return () => document.removeEventListener("keydown", onKeyDown);
  }, [showKeys, keys]);
}
