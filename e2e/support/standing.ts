import type { Charge, Meter, Rig, Tap, Vessel, Visit } from "../../core/src/index";
import { assessAll, type RigFacts } from "../../client/features/rack/assess";
import { verdictWords } from "../../client/features/rack/words";
import type { RunningServer } from "./app";

/** Title and reason that the core gives for a rig from what the server keeps now: what the page has to show, on any day. */
export async function standingOf(server: RunningServer, name: string) {
  const list = async <T>(kind: string): Promise<T[]> =>
    ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: T[] }).items;
  const [rigs, vessels, taps, meters] = [
    await list<Rig>("rigs"),
    await list<Vessel>("vessels"),
    await list<Tap>("taps"),
    await list<Meter>("meters"),
  ];
  const visits = (await list<Visit>("visits")).sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  const charges = (await list<Charge>("charges")).sort((a, b) => Date.parse(a.filledAt) - Date.parse(b.filledAt));
  const shared = {
    taps,
    meters,
    feedTests: await list<never>("feed-tests"),
    reports: await list<never>("water-reports"),
  };
  const facts = rigs.map((rig): RigFacts => {
    const stage = rig.stages.find((each) => each.kind === "resin");
    const vessel = vessels.find(({ id }) => stage?.kind === "resin" && id === stage.vesselId)!;
    return {
      ...{ ...shared, rig, vessel, now: Date.now() },
      visits: visits.filter(({ rigId }) => rigId === rig.id),
      charges: charges.filter(({ rigId }) => rigId === rig.id),
    };
  });
  const at = facts.findIndex(({ rig }) => rig.name === name);
  const { title, reason } = verdictWords(facts[at]!, assessAll(facts)[at]!.standing!, "metric");
  return { title: `${name}: ${title.charAt(0).toLowerCase()}${title.slice(1)}`, reason };
}
