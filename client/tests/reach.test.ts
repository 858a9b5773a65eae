/**
 * @jest-environment node
 */
import { reach } from "../data/reach";
import { ageInWords, sentWords } from "../features/shell/sent-words";

const NOW = Date.parse("2027-03-01T12:00:00Z");
const MINUTE = 60_000;
const NOTHING = { items: [], read: true };
const waiting = (count: number, refused = 0) => ({
  read: true,
  items: Array.from({ length: count + refused }, (_, seq) => ({
    seq,
    id: String(seq),
    act: { at: "", what: "", puts: [] },
    madeAt: "",
    ...(seq < refused ? { refused: { type: "about:blank", title: "No", status: 422 } } : {}),
  })),
});

describe("what is said of sending is true now", () => {
  test.each([
    ["the server answered just now", NOTHING, { state: "reached", answeredAt: NOW - 20_000 }, "all sent"],
    ["its answer is old", NOTHING, { state: "reached", answeredAt: NOW - 9 * MINUTE }, "sent, as of 9 min ago"],
    ["nothing was asked yet", NOTHING, { state: "unknown" }, "asking the server"],
    [
      "this device was not read yet",
      { items: [], read: false },
      { state: "reached", answeredAt: NOW },
      "asking the server",
    ],
    ["there is no signal", NOTHING, { state: "lost", why: "no-signal" }, "no signal"],
    [
      "there was one three hours ago",
      NOTHING,
      { state: "lost", why: "no-signal", answeredAt: NOW - 180 * MINUTE },
      "no signal, as of 3 h ago",
    ],
    ["the server turns work away", NOTHING, { state: "lost", why: "busy", answeredAt: NOW }, "server busy"],
    ["something waits", waiting(2), { state: "reached", answeredAt: NOW }, "2 to send"],
    ["something waits without a signal", waiting(2), { state: "lost", why: "no-signal" }, "2 wait: no signal"],
    [
      "something waits for a session",
      { ...waiting(2), held: { why: "signed-out", words: "" } },
      { state: "reached", answeredAt: NOW },
      "2 wait: signed out",
    ],
    ["something was refused", waiting(2, 1), { state: "reached", answeredAt: NOW }, "1 not taken"],
  ] as const)("when %s", (_when, outbox, state, words) => {
    expect(sentWords(outbox, state, NOW)).toBe(words);
  });

  test("ages go from minutes to days", () => {
    expect([30_000, 5 * MINUTE, 90 * MINUTE, 72 * 60 * MINUTE].map(ageInWords)).toEqual([
      "under a minute",
      "5 min",
      "1 h",
      "3 days",
    ]);
  });
});

describe("one place asks whether the server is back", () => {
  const asked: number[] = [];
  let answers: (() => Response | Promise<Response>)[] = [];
  const json = (status: number, body: object) =>
    new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });

  beforeAll(() => {
    jest.useFakeTimers({ now: NOW });
    globalThis.fetch = () => {
      asked.push(Date.now() - NOW);
      const next = answers.shift();
      return next ? Promise.resolve(next()) : Promise.reject(new TypeError("no signal"));
    };
  });
  afterAll(() => jest.useRealTimers());

  test("each pause is twice the one before, up to half a minute", async () => {
    reach.lost("no-signal");
    await jest.advanceTimersByTimeAsync(100_000);
    expect(asked).toEqual([500, 1_500, 3_500, 7_500, 15_500, 31_500, 61_500, 91_500]);
  });

  test("whoever waits goes on once it answers, and a server that turns work away says why", async () => {
    answers = [() => json(503, { title: "The disk of this server is full" }), () => json(200, { ready: true })];
    let back = false;
    void reach.whenBack().then(() => (back = true));
    await jest.advanceTimersByTimeAsync(30_000);
    expect([back, reach.snapshot()]).toMatchObject([false, { why: "busy", words: "The disk of this server is full" }]);
    await jest.advanceTimersByTimeAsync(30_000);
    expect([back, reach.snapshot().state]).toEqual([true, "reached"]);
    await expect(reach.whenBack()).resolves.toBeUndefined();
  });

  test("a real answer makes it quick again; a proxy's page in its place is no answer", async () => {
    reach.reached();
    answers = [() => new Response("<html>", { headers: { "content-type": "text/html" } })];
    asked.length = 0;
    const began = Date.now() - NOW;
    reach.lost("no-signal");
    await jest.advanceTimersByTimeAsync(600);
    expect(asked).toEqual([began + 500]);
    expect(reach.snapshot().state).toBe("lost");
  });

  test("an answer that was on its way when the signal went is not taken for a signal of half a minute", async () => {
    reach.reached();
    reach.lost("no-signal");
    reach.reached();
    answers = [];
    await jest.advanceTimersByTimeAsync(600);
    expect(reach.snapshot()).toMatchObject({ state: "lost", why: "no-signal" });
    answers = [() => json(200, { ready: true })];
    await jest.advanceTimersByTimeAsync(1_100);
    asked.length = 0;
    await jest.advanceTimersByTimeAsync(29_000);
    expect([reach.snapshot().state, asked]).toEqual(["reached", []]);
  });
});
