import { useSyncExternalStore } from "react";

/**
 * The shell on this device and the one that came after it. A new version waits: the page that runs keeps its pieces until
 * its user takes the new one, or closes the app.
 */
let waiting: ServiceWorker | undefined;
const listeners = new Set<() => void>();

function setWaiting(worker: ServiceWorker | null): void {
  // The very first one waits for nobody and is no news.
  waiting = worker && navigator.serviceWorker.controller ? worker : undefined;
  for (const listener of listeners) listener();
}

function watch(registration: ServiceWorkerRegistration): void {
  setWaiting(registration.waiting);
  registration.addEventListener("updatefound", () => {
    const coming = registration.installing;
    coming?.addEventListener("statechange", () => {
      if (coming.state === "installed") setWaiting(registration.waiting);
    });
  });
}

const LOOK_EVERY = 30 * 60_000;

/** Keeps the shell on this device, so that the app opens without a signal, and looks for a new one now and then. */
export function keepShell(): void {
  if (process.env.NODE_ENV !== "production" || !("serviceWorker" in navigator)) return;
  let hadShell = navigator.serviceWorker.controller !== null;
  navigator.serviceWorker.addEventListener("controllerchange", () => {
    // Taken here or in another tab: this page's pieces are gone with the old version. What is typed is kept.
    if (hadShell) location.reload();
    hadShell = true;
  });
  void navigator.serviceWorker.register("/sw.js").then(
    (registration: ServiceWorkerRegistration | undefined) => {
      // A browser that is told to keep no workers says nothing at all.
      if (!registration) return;
      watch(registration);
      setInterval(() => void registration.update().catch(() => undefined), LOOK_EVERY);
      document.addEventListener("visibilitychange", () => {
        if (document.visibilityState === "visible") void registration.update().catch(() => undefined);
      });
    },
    () => undefined,
  );
}

/** Takes the version that waits; the page loads anew with it. */
export const takeNewVersion = (): void => waiting?.postMessage({ type: "SKIP_WAITING" });

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useNewVersion = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => waiting !== undefined,
    () => false,
  );
