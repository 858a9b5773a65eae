import type { Id } from "@winter-bead/core";
import { nameHere } from "../../data/example";
import { keepOnDevice, onDevice } from "../../data/on-device";

const KEY = nameHere("winter-bead-last-rig");

/** The rig that was logged last on this device: another hand's phone has another. */
export const lastRig = (): Id | undefined => onDevice(KEY) ?? undefined;

export const rememberRig = (id: Id): void => void keepOnDevice(KEY, id);
