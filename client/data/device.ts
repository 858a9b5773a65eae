import { v7 as uuidv7 } from "uuid";
import { keepOnDevice, onDevice } from "./on-device";

const KEY = "winter-bead-device";
let name: string | undefined;

/** The name by which this device signs what it keeps; made once. */
export function thisDevice(): string {
  name ??= onDevice(KEY) ?? undefined;
  if (name) return name;
  name = uuidv7();
  keepOnDevice(KEY, name);
  return name;
}
