import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { figureOn, ZONES, type Zone } from "./zones";

/**
 * How the stand-in behaves: as it should, not at all, too slowly, in wrong units, with fields left out, or with something
 * that is no report.
 */
export const MODES = ["steady", "outage", "slow", "wrong-units", "missing-fields", "garbled"] as const;
export type Mode = (typeof MODES)[number];

const SLOW_BY = 30_000;
const LONGEST_BODY = 1_000;

const reply = (response: ServerResponse, status: number, body: unknown) => {
  response.writeHead(status, { "Content-Type": "application/json" });
  response.end(JSON.stringify(body));
};

/** What is asked for; undefined for what is no address, such as `//`. */
function addressOf(request: IncomingMessage): URL | undefined {
  const path = request.url ?? "/";
  return path.startsWith("/") && URL.canParse(`http://service${path}`) ? new URL(`http://service${path}`) : undefined;
}

/** The first day of the month of a sample, or nothing for what is no date. */
function sampleDay(on: string | null): Date | undefined {
  const day = on === null ? new Date() : new Date(`${on}T00:00:00Z`);
  if (Number.isNaN(day.getTime())) return undefined;
  return new Date(Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), 1));
}

const seasonOf = (day: Date) =>
  ["winter", "spring", "summer", "autumn"][Math.floor(((day.getUTCMonth() + 1) % 12) / 3)]!;

function reportOf(zone: Zone, day: Date, mode: Mode) {
  const values = zone.figures.map((figure) => ({
    parameter: figure.parameter,
    value: figureOn(figure, zone.peakDay, day),
    unit: figure.unit,
  }));
  const lying = {
    "wrong-units": values.map((line, i) =>
      i === 0 ? { ...line, value: line.value * 1000 } : i === 2 ? { ...line, unit: "furlongs" } : line,
    ),
    "missing-fields": values
      .filter(({ parameter }) => !/Calcium|Alkalinity/.test(parameter))
      .map((line, i) => (i === 1 ? { parameter: line.parameter, value: line.value } : line)),
  };
  return {
    zone: zone.id,
    name: zone.name,
    sampledOn: day.toISOString().slice(0, 10),
    season: seasonOf(day),
    values: mode === "wrong-units" || mode === "missing-fields" ? lying[mode] : values,
  };
}

/**
 * A stand-in for a water supplier's report service, made up with its zones. `GET /zones`, `GET /zones/{id}/report?on=DATE`;
 * `PUT /mode` with one of `MODES` makes it fail on purpose.
 */
export class ReportService {
  private mode: Mode = "steady";
  private readonly server: Server = createServer((request, response) => {
    this.answer(request, response).catch(() => response.destroy());
  });
  private readonly waiting = new Set<NodeJS.Timeout>();

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
    for (const timer of this.waiting) clearTimeout(timer);
    this.server.closeAllConnections();
    return new Promise((closed) => this.server.close(() => closed()));
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = addressOf(request);
    if (!url) return reply(response, 400, { error: "no address that can be read" });
    if (url.pathname === "/mode") return this.answerMode(request, response);
    if (this.mode === "outage") {
      response.destroy();
      return;
    }
    if (this.mode === "slow") await this.wait(response);
    if (this.mode === "garbled") {
      response.writeHead(200, { "Content-Type": "application/json" });
      response.end('{"zone": "harbour", "values": "see attachment');
      return;
    }
    const zoneId = /^\/zones\/([^/]+)\/report$/.exec(url.pathname)?.[1];
    if (url.pathname === "/zones")
      return reply(
        response,
        200,
        ZONES.map(({ id, name }) => ({ id, name })),
      );
    const zone = ZONES.find(({ id }) => id === zoneId);
    const day = sampleDay(url.searchParams.get("on"));
    if (!zone || !day) return reply(response, 404, { error: "no such zone or day" });
    reply(response, 200, reportOf(zone, day, this.mode));
  }

  private wait(response: ServerResponse): Promise<void> {
    return new Promise((done) => {
      const timer = setTimeout(() => {
        this.waiting.delete(timer);
        done();
      }, SLOW_BY);
      this.waiting.add(timer);
      response.once("close", () => {
        clearTimeout(timer);
        this.waiting.delete(timer);
      });
    });
  }

  private async answerMode(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (request.method !== "PUT") return reply(response, 200, { mode: this.mode, modes: MODES });
    let body = "";
    for await (const part of request) {
      body += String(part);
      if (body.length > LONGEST_BODY) return reply(response, 413, { error: "too long" });
    }
    const wanted = MODES.find((mode) => body.includes(`"${mode}"`));
    if (!wanted) return reply(response, 422, { error: `mode must be one of ${MODES.join(", ")}` });
    this.mode = wanted;
    reply(response, 200, { mode: wanted });
  }
}
