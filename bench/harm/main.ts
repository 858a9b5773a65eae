import { connect } from "node:net";
import { RunningServer } from "../../server/tests/running-server";
import { firstRig, id, tapBody, visitBody } from "../../server/tests/sample-records";

/*
 * What others wait for while one asks for too much: every route while the database is frozen, health while 200 connections
 * send lists without waiting, a crew's small write while a large act is kept. Requests are counted and end by themselves.
 */

const SOCKETS = 200;
const LISTS_EACH = 30;
const ROUNDS = 5;

const server = await RunningServer.start();
const port = Number(new URL(server.url).port);
const ms = (value: number) => `${Math.round(value)} ms`;
const timed = async (asked: Promise<{ readonly status: number }>) => {
  const began = performance.now();
  const { status } = await asked;
  return { status, took: performance.now() - began };
};
const middle = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

async function frozen(): Promise<void> {
  const kinds = ["rigs", "visits", "sites", "taps", "charges", "bookings"];
  const pids = server.databasePids;
  for (const pid of pids) process.kill(pid, "SIGSTOP");
  try {
    const asked = [
      ...kinds.map((kind) => timed(server.request("GET", `/api/v1/${kind}`))),
      ...kinds.map((kind) => timed(server.request("GET", `/api/v1/${kind}/${id()}`))),
      timed(server.request("PUT", `/api/v1/sites/${id()}`, { name: "Frozen" })),
      timed(server.request("GET", "/api/v1/calendar/feeds")),
      timed(server.request("POST", "/api/v1/calendar/feeds", { name: "Frozen" })),
      timed(server.request("GET", "/api/v1/crew")),
      timed(server.request("GET", "/api/v1/health")),
    ];
    const answers = await Promise.all(asked);
    const statuses = [...new Set(answers.map(({ status }) => status))].join(", ");
    const slowest = Math.max(...answers.map(({ took }) => took));
    console.log(
      `database frozen, ${answers.length} requests at once: ${statuses}, slowest ${ms(slowest)} (503 within 5000 ms)`,
    );
  } finally {
    for (const pid of pids) process.kill(pid, "SIGCONT");
  }
}

/** One connection that sends lists without waiting; ends with the server or after ten seconds. */
const flood = () =>
  new Promise<void>((done) => {
    const one = "GET /api/v1/visits?limit=1000 HTTP/1.1\r\nHost: localhost\r\n\r\n";
    const socket = connect(port, "127.0.0.1", () => socket.write(one.repeat(LISTS_EACH)));
    socket.setTimeout(10_000, () => socket.destroy());
    socket.resume();
    socket.on("error", () => undefined);
    socket.on("close", () => done());
  });

async function flooded(): Promise<void> {
  const quiet = middle(
    await Promise.all(
      Array.from({ length: 9 }, async () => (await timed(server.request("GET", "/api/v1/health"))).took),
    ),
  );
  const floods = Array.from({ length: SOCKETS }, flood);
  const seen: number[] = [];
  let going = true;
  const ended = Promise.all(floods).then(() => (going = false));
  while (going && seen.length < 200) {
    seen.push((await timed(server.request("GET", "/api/v1/health"))).took);
    await new Promise((pause) => setTimeout(pause, 20));
  }
  await ended;
  console.log(
    `${SOCKETS} connections that pipeline ${LISTS_EACH} lists each: health asked ${seen.length} times, middle ${ms(middle(seen))}, slowest ${ms(Math.max(...seen))} (under 1000 ms; ${ms(quiet)} when quiet)`,
  );
}

async function beside(): Promise<void> {
  const ids = await firstRig(server);
  for (let i = 0; i < 300; i += 1)
    await server.request("PUT", `/api/v1/visits/${id()}`, { ...visitBody(ids, i % 9), note: "n".repeat(900) });
  const small = async () => (await timed(server.request("PUT", `/api/v1/sites/${id()}`, { name: "Small" }))).took;
  const [alone, waiting, large]: [number[], number[], number[]] = [[], [], []];
  for (let round = 0; round < ROUNDS; round += 1) {
    alone.push(await small());
    const puts = Array.from({ length: 250 }, (_, i) => {
      const site = id();
      return [
        { kind: "sites", id: site, body: { name: `Place ${i}` } },
        { kind: "taps", id: id(), body: tapBody(site) },
      ];
    }).flat();
    const act = timed(
      server.request("PUT", `/api/v1/acts/${id()}`, { at: new Date().toISOString(), what: "Large", puts }),
    );
    await new Promise((pause) => setTimeout(pause, 5));
    waiting.push(await small());
    large.push((await act).took);
  }
  console.log(
    `an act of 500 puts: ${ms(middle(large))}; a small write of the same crew beside it ${ms(middle(waiting))}, alone ${ms(middle(alone))}`,
  );
}

try {
  await frozen();
  for (let i = 0; i < 100 && (await server.request("GET", "/api/v1/rigs")).status !== 200; i += 1)
    await new Promise((pause) => setTimeout(pause, 50));
  await beside();
  await flooded();
} finally {
  await server.remove();
}
