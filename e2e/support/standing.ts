import { assessAll } from "../../client/features/rack/assess";
import { gather } from "../../client/features/rack/gather";
import { verdictWords } from "../../client/features/rack/words";
import type { RunningServer } from "./app";

/** Title and reason that the core gives for a rig from what the server keeps now: what the page has to show, on any day. */
export async function standingOf(server: RunningServer, name: string) {
  const list = async <T>(kind: string): Promise<T[]> =>
    ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: T[] }).items;
  const facts = gather(
    [
      await list("rigs"),
      await list("vessels"),
      await list("taps"),
      await list("meters"),
      await list("charges"),
      await list("visits"),
      await list("feed-tests"),
      await list("water-reports"),
      await list("arrangements"),
      await list("price-lists"),
    ],
    { bookings: [], usualWeeks: [], daysOff: [] },
    Date.now(),
  );
  const at = facts.findIndex(({ rig }) => rig.name === name);
  const { title, reason } = verdictWords(facts[at]!, assessAll(facts)[at]!.standing!, "metric");
  return { title: `${name}: ${title.charAt(0).toLowerCase()}${title.slice(1)}`, reason };
}
