import { QueryClient, QueryObserver } from "@tanstack/react-query";
import type { Kept } from "../data/api";
import { layAnswers } from "../data/lay-answers";
import { keyOf } from "../data/list-key";

const site = (id: string, name: string, version = 1): Kept<"sites"> => ({ id, name, version, voided: false });
const accepted = (record: Kept<"sites">) => [
  { seq: 1, records: [{ kind: "sites" as const, record: record as unknown as Kept }] },
];
const queryKey = keyOf("sites");

/** A server whose list grows, and whose first answer waits until it is let go. */
function slowServer(kept: Kept<"sites">[]) {
  let letGo: () => void = () => undefined;
  const first = new Promise<void>((resolve) => (letGo = resolve));
  let asked = 0;
  return {
    asked: () => asked,
    letGo: () => letGo(),
    list: async () => {
      const seen = [...kept];
      if ((asked += 1) === 1) await first;
      return seen;
    },
  };
}

let client: QueryClient;
beforeEach(() => {
  client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
});
afterEach(() => client.clear());

const namesHere = () => (client.getQueryData<Kept<"sites">[]>(queryKey) ?? []).map(({ name }) => name);

test("an accepted write stands in the list that is known", async () => {
  client.setQueryData(queryKey, [site("a", "Yard")]);
  await layAnswers(client, accepted(site("b", "Bay")));
  expect(namesHere()).toEqual(["Yard", "Bay"]);
});

test("a list that left the server before the write came is asked for again", async () => {
  const kept = [site("a", "Yard")];
  const server = slowServer(kept);
  const observer = new QueryObserver(client, { queryKey, queryFn: server.list });
  const leave = observer.subscribe(() => undefined);
  await Promise.resolve();
  kept.push(site("b", "Bay"));
  const laid = layAnswers(client, accepted(site("b", "Bay")));
  server.letGo();
  await laid;
  expect(namesHere()).toEqual(["Yard", "Bay"]);
  expect(server.asked()).toBe(2);
  leave();
});

test("a known list that was just being fetched is asked for again, for what other devices have kept", async () => {
  client.setQueryData(queryKey, [site("a", "Yard")], { updatedAt: 1 });
  const kept = [site("a", "Yard"), site("c", "Pier")];
  const server = slowServer(kept);
  const observer = new QueryObserver(client, { queryKey, queryFn: server.list });
  const leave = observer.subscribe(() => undefined);
  await Promise.resolve();
  kept.push(site("b", "Bay"));
  await layAnswers(client, accepted(site("b", "Bay")));
  expect(namesHere()).toEqual(["Yard", "Pier", "Bay"]);
  server.letGo();
  leave();
});

test("a list that nobody looks at is not fetched for it", async () => {
  await layAnswers(client, accepted(site("b", "Bay")));
  expect(client.getQueryData(queryKey)).toBeUndefined();
});
