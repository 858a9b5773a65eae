import { isExample } from "../../data/example";
import type { OutboxState } from "../../data/outbox";
import type { Reach } from "../../data/reach";

/** An answer older than this says nothing of now, ms. */
const JUST_NOW = 75_000;

/** How long ago, in few letters. @example ageInWords(200_000) // "3 min" */
export function ageInWords(milliseconds: number): string {
  const minutes = Math.floor(milliseconds / 60_000);
  if (minutes < 1) return "under a minute";
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${hours} h` : `${Math.floor(hours / 24)} days`;
}

const HELD = { "signed-out": "signed out", "newer-shape": "server too old", unknown: "held up here" } as const;

/** What waits on this device and whether the server answers, in a few words that are true now. */
export function sentWords({ items, read, held }: OutboxState, reach: Reach, now: number): string {
  if (isExample) return "an example, not sent";
  const refused = items.filter((item) => item.refused).length;
  const waiting = items.length - refused;
  const lost = reach.state === "lost" ? (reach.why === "busy" ? "server busy" : "no signal") : undefined;
  const age = reach.answeredAt === undefined ? undefined : now - reach.answeredAt;
  const asOf = age === undefined || age < 60_000 ? "" : `, as of ${ageInWords(age)} ago`;
  if (refused > 0) return `${refused} not taken`;
  if (waiting > 0 && held) return `${waiting} wait: ${HELD[held.why]}`;
  if (waiting > 0) return lost ? `${waiting} wait: ${lost}` : `${waiting} to send`;
  if (lost) return lost + asOf;
  if (!read || age === undefined) return "asking the server";
  return age < JUST_NOW ? "all sent" : `sent${asOf}`;
}
