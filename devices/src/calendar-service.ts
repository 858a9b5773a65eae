import { createServer, type Server } from "node:http";

const DAY = 86_400_000;

/** Rounds of an invented window cleaner in the invented town of Vellin Quay. */
const ROUNDS = [
  { uid: "tide-terrace", title: "Tide Terrace, 4 houses", inDays: 3 },
  { uid: "signal-hill", title: "Signal Hill, 2 houses", inDays: 5 },
  { uid: "chandlers-yard", title: "Chandlers Yard first clean", inDays: 9 },
] as const;

const compact = (at: number) => new Date(at).toISOString().slice(0, 10).replaceAll("-", "");

const dayEvent = (uid: string, title: string, at: number, more: readonly string[] = []) => [
  "BEGIN:VEVENT",
  `UID:${uid}@rounds.vellin-quay.example`,
  `DTSTAMP:${compact(at)}T000000Z`,
  `DTSTART;VALUE=DATE:${compact(at)}`,
  `DTEND;VALUE=DATE:${compact(at + DAY)}`,
  `SUMMARY:${title.replaceAll(",", "\\,")}`,
  ...more,
  "END:VEVENT",
];

/** A calendar of the weeks after a moment: single days, and one that comes every other week. */
export function sampleCalendar(now: number): string {
  return [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Vellin Quay Rounds//Stand-in//EN",
    ...ROUNDS.flatMap(({ uid, title, inDays }) => dayEvent(uid, title, now + inDays * DAY)),
    ...dayEvent("school", "School by the quay, 1 job", now + 6 * DAY, ["RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=6"]),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
}

/** A stand-in for a calendar that somebody else keeps: `GET /round.ics`. */
export class CalendarService {
  private readonly server: Server = createServer((request, response) => {
    const isRound = request.url === "/round.ics";
    response.writeHead(isRound ? 200 : 404, {
      "Content-Type": isRound ? "text/calendar; charset=utf-8" : "text/plain",
    });
    response.end(isRound ? sampleCalendar(Date.now()) : "there is only /round.ics\n");
  });

  /** Listens on loopback; resolves with its address. */
  listen(port = 0): Promise<string> {
    return new Promise((ready, failed) => {
      this.server.once("error", failed);
      this.server.listen(port, "127.0.0.1", () =>
        ready(`http://127.0.0.1:${(this.server.address() as { port: number }).port}`),
      );
    });
  }

  close(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((closed) => this.server.close(() => closed()));
  }
}
