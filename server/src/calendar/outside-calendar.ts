import { lookup } from "node:dns/promises";
import { request as requestHttp } from "node:http";
import { request as requestHttps } from "node:https";
import { isIP } from "node:net";
import ipaddr from "ipaddr.js";

/** Why an address gave no calendar, in words for the technician. */
export class CalendarTrouble extends Error {
  constructor(
    readonly status: 403 | 422 | 502 | 504,
    message: string,
  ) {
    super(message);
  }
}

const PATIENCE = 6_000;
const LARGEST = 2 ** 20;
const MOST_REDIRECTS = 3;

/**
 * Whether an address is anything but one of the open internet: this machine, its network, and what is set aside (RFC 6890).
 * @example isPrivate("192.168.1.10") // true
 */
export const isPrivate = (address: string): boolean =>
  !ipaddr.isValid(address) || ipaddr.process(address).range() !== "unicast";

function readAddress(text: string): URL {
  const url = URL.canParse(text) ? new URL(text.replace(/^webcal:/i, "https:")) : undefined;
  if (!url || !/^https?:$/.test(url.protocol) || url.username !== "" || url.password !== "")
    throw new CalendarTrouble(422, "Give the whole address of a calendar, such as https://calendar.example/round.ics.");
  return url;
}

interface Answered {
  readonly status: number;
  readonly location?: string;
  readonly text: string;
}

/** Asks one address; the connection goes to the address that was looked at, whatever the name says a moment later. */
function askOnce(url: URL, address: string, deadline: AbortSignal): Promise<Answered> {
  const request = url.protocol === "https:" ? requestHttps : requestHttp;
  const family = isIP(address);
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      {
        headers: { Accept: "text/calendar, text/plain;q=0.5" },
        signal: deadline,
        lookup: (_name, options, found) =>
          options.all
            ? (found as never as (e: null, all: object[]) => void)(null, [{ address, family }])
            : found(null, address, family),
      },
      (response) => {
        const pieces: Buffer[] = [];
        let size = 0;
        response.on("data", (piece: Buffer) => {
          size += piece.length;
          if (size > LARGEST) {
            asked.destroy();
            reject(new CalendarTrouble(502, "This calendar is far too large to be taken."));
          } else pieces.push(piece);
        });
        response.on("end", () =>
          resolve({
            status: response.statusCode ?? 0,
            ...(response.headers.location ? { location: response.headers.location } : {}),
            text: Buffer.concat(pieces).toString("utf8"),
          }),
        );
        response.on("error", reject);
      },
    );
    asked.on("error", reject);
    asked.end();
  });
}

/** Ends as the work does, or with the deadline. */
const inTime = <T>(work: Promise<T>, deadline: AbortSignal): Promise<T> =>
  new Promise((resolve, reject) => {
    const late = () => reject(deadline.reason as Error);
    if (deadline.aborted) return late();
    deadline.addEventListener("abort", late, { once: true });
    work.then(resolve, reject).finally(() => deadline.removeEventListener("abort", late));
  });

/** Fetches calendars from addresses that a user typed; this machine's own network is no place for them unless it is named. */
export class OutsideCalendar {
  private readonly named: Set<string>;

  /**
   * @param named origins that may be asked though they are private, such as `http://127.0.0.1:4190`
   * @param own the address of the stand-in that ships with this, which may still be starting
   * @param deadlineOf the end of one request, from asking to the whole answer, looking names up and leading on included
   */
  constructor(
    named: readonly string[] = [],
    own?: Promise<string>,
    private readonly deadlineOf = () => AbortSignal.timeout(PATIENCE),
  ) {
    this.named = new Set(named);
    void own?.then((address) => this.named.add(address));
  }

  /** @throws CalendarTrouble with a sentence */
  async fetch(address: string): Promise<string> {
    let url = readAddress(address);
    // One for the whole chain: an address that leads on takes no longer than one that answers.
    const deadline = this.deadlineOf();
    try {
      for (let i = 0; i <= MOST_REDIRECTS; i += 1) {
        const { status, location, text } = await askOnce(url, await inTime(this.placeOf(url), deadline), deadline);
        if (status >= 300 && status < 400 && location) {
          url = readAddress(new URL(location, url).href);
          continue;
        }
        if (status !== 200) throw new CalendarTrouble(502, `There is no calendar at this address (${status}).`);
        if (!text.trimStart().startsWith("BEGIN:VCALENDAR"))
          throw new CalendarTrouble(502, "What stands at this address is no calendar.");
        return text;
      }
    } catch (error) {
      if (error instanceof CalendarTrouble) throw error;
      const late = (error as Error).name === "TimeoutError" || (error as Error).name === "AbortError";
      throw new CalendarTrouble(
        late ? 504 : 502,
        late ? "The calendar's address takes too long to answer." : "Nothing answers at this address.",
      );
    }
    throw new CalendarTrouble(502, "This address leads from one to the next without end.");
  }

  private async placeOf({ hostname, origin }: URL): Promise<string> {
    const name = hostname.replace(/^\[|\]$/g, "");
    const found = isIP(name) ? [{ address: name }] : await lookup(name, { all: true });
    if (!this.named.has(origin) && found.some(({ address }) => isPrivate(address)))
      throw new CalendarTrouble(
        403,
        "This address lies in a private network, which is not asked. Whoever runs the server can name it in WINTER_BEAD_CALENDARS.",
      );
    return found[0]!.address;
  }
}
