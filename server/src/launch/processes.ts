import { readdirSync, readFileSync, readlinkSync } from "node:fs";

/** Whether a process of this id runs (a zombie does not). */
export function isRunning(pid: number): boolean {
  try {
    const state = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]?.[0];
    return state !== undefined && state !== "Z";
  } catch {
    return false;
  }
}

/** When a process began, as the kernel counts it: with its id it names one process for good. */
export function beganAt(pid: number): string | undefined {
  try {
    // The name in brackets may hold blanks; what follows it is counted from the third field.
    return readFileSync(`/proc/${pid}/stat`, "utf8")
      .replace(/^.*\) /s, "")
      .split(" ")[19];
  } catch {
    return undefined;
  }
}

export function commandLine(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").replaceAll("\0", " ").trim();
  } catch {
    return "";
  }
}

export function workingFolder(pid: number): string | undefined {
  try {
    return readlinkSync(`/proc/${pid}/cwd`);
  } catch {
    return undefined;
  }
}

/** Running processes that work in this folder: those of a database whose data lie there. */
export function processesIn(folder: string): number[] {
  return readdirSync("/proc")
    .map(Number)
    .filter((pid) => Number.isInteger(pid) && isRunning(pid) && workingFolder(pid) === folder);
}

export const pause = (milliseconds: number) => new Promise<void>((resolve) => setTimeout(resolve, milliseconds));

/** Waits until something holds, looking every 50 ms; false when the time ran out. */
export async function waitUntil(holds: () => boolean, milliseconds: number): Promise<boolean> {
  const end = Date.now() + milliseconds;
  while (!holds()) {
    if (Date.now() > end) return false;
    await pause(50);
  }
  return true;
}

export function signal(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch {
    // It ended meanwhile, which is what was wanted.
  }
}
