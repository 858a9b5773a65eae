import { mkdirSync } from "node:fs";
import { pino, type Logger } from "pino";
import { createStream } from "rotating-file-stream";

const LARGEST = "5M";
const KEPT = 5;

/**
 * The log of requests and mistakes, `log/server.log` in the data folder; the last five of five megabytes each are kept. A
 * disk that takes no more costs lines of the log, never a request.
 */
export function openLog(folder: string): { readonly logger: Logger; close(): Promise<void> } {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = createStream("server.log", { path: folder, size: LARGEST, maxFiles: KEPT });
  file.on("error", () => undefined);
  const logger = pino({ base: undefined, timestamp: pino.stdTimeFunctions.isoTime }, file);
  return { logger, close: () => new Promise((closed) => file.end(() => closed())) };
}
