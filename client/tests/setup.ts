import { webcrypto } from "node:crypto";
import { TextEncoder as NodeTextEncoder } from "node:util";

// What a browser has and jsdom lacks.
Object.defineProperty(globalThis, "matchMedia", {
  value: (query: string) => ({
    matches: false,
    media: query,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
    addListener: () => undefined,
    removeListener: () => undefined,
  }),
});
// The tests speak metric, as most of the world does; the words of the page stay English.
if (globalThis.navigator) Object.defineProperty(navigator, "language", { configurable: true, value: "en-GB" });
if (typeof globalThis.TextEncoder !== "function") Object.assign(globalThis, { TextEncoder: NodeTextEncoder });
if (typeof globalThis.crypto?.randomUUID !== "function")
  Object.defineProperty(globalThis, "crypto", { configurable: true, value: webcrypto });
