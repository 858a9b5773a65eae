import { v5 as uuidv5, v7 as uuidv7 } from "uuid";
import type { Id } from "@winter-bead/core";
import { clockNow } from "./clock";

/** The id of something new, made on this device. */
export const newId = (): Id => uuidv7({ msecs: clockNow() });

/** The space of names in which a piece of guided work has one id on every phone. */
const WORKS = "6d1c36f5-4c8e-5b1a-9a77-5f0b6f2f6b1e";

/** The id that every phone makes of the same words. */
export const workIdOf = (key: string): Id => uuidv5(key, WORKS);
