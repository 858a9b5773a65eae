/**
 * @jest-environment node
 */
import { expose } from "comlink";
import { WorkerLine, WorkerSilent } from "../data/worker-line";

const worked: string[] = [];
const api = {
  echo: (word: string) => {
    worked.push(word);
    return word;
  },
  silent: () => new Promise<string>(() => undefined),
  slow: async (tell: number) => {
    await new Promise((later) => setTimeout(later, tell));
    return "done";
  },
};
type Api = typeof api;

let started = 0;
let breaks: (() => void) | undefined;
const channels: MessagePort[] = [];

/** A worker on the other end of a real channel. */
function startWorker(): Worker {
  started += 1;
  const { port1, port2 } = new MessageChannel();
  channels.push(port1, port2);
  expose(api, port2 as never);
  const listeners: (() => void)[] = [];
  breaks = () => listeners.forEach((each) => each());
  return Object.assign(port1, {
    terminate: () => port1.close(),
    addEventListener: (name: string, listener: () => void) =>
      name === "error" ? listeners.push(listener) : MessagePort.prototype.addEventListener.call(port1, name, listener),
  }) as unknown as Worker;
}

const line = new WorkerLine<Api>(startWorker, 1_500);
afterAll(() => channels.forEach((port) => port.close()));

test("jobs go one at a time, in the order they were asked", async () => {
  const words = await Promise.all(["a", "b", "c"].map((word) => line.run((worker) => worker.echo(word))));
  expect([words, worked, started]).toEqual([["a", "b", "c"], ["a", "b", "c"], 1]);
});

test("a long queue is no dead worker, and a sign of life keeps a long job alive", async () => {
  const queue = Array.from({ length: 4 }, () => line.run((worker) => worker.slow(450)));
  await expect(Promise.all(queue)).resolves.toEqual(["done", "done", "done", "done"]);
  const long = line.run(async (worker, alive) => {
    const timer = setInterval(alive, 100);
    const answer = await worker.slow(2_000);
    clearInterval(timer);
    return answer;
  });
  await expect(long).resolves.toBe("done");
  expect(started).toBe(1);
});

test("a silent one is ended: its job is not done elsewhere, and the next gets a fresh worker", async () => {
  const lost = line.run((worker) => worker.silent());
  const next = line.run((worker) => worker.echo("after"));
  await expect(lost).rejects.toBeInstanceOf(WorkerSilent);
  await expect(next).resolves.toBe("after");
  expect(started).toBe(2);
});

test("one that breaks tells at once; what a job itself throws ends no worker", async () => {
  const broken = line.run((worker) => worker.silent());
  setTimeout(() => breaks!(), 20);
  await expect(broken).rejects.toThrow("The worker broke.");
  await expect(line.run(() => Promise.reject(new Error("mine")))).rejects.toThrow("mine");
  await expect(line.run((worker) => worker.echo("still"))).resolves.toBe("still");
  expect(started).toBe(3);
});
