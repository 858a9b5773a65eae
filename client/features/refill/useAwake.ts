import { useEffect } from "react";

/** Keeps the screen on while hands are wet, where the browser can; asked for again when the page comes back. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let left = false;
    const ask = async () => {
      if (document.visibilityState !== "visible") return;
      try {
        lock = await navigator.wakeLock?.request("screen");
        if (left) void lock?.release();
      } catch {
        // A low battery refuses it: the guide works all the same.
      }
    };
    void ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, []);
}
