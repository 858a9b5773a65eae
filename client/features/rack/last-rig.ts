import type { Id } from "@winter-bead/core";
import { nameHere } from "../../data/example";

const KEY = nameHere("winter-bead-last-rig");

/** The rig that was logged last on this device: another hand's phone has another. */
export const lastRig = (): Id | undefined => localStorage.getItem(KEY) ?? undefined;

export const rememberRig = (id: Id): void => localStorage.setItem(KEY, id);
