import type { RunningServer } from "./app";

const idOf = async (server: RunningServer, kind: string, i: number) =>
  ((await server.request("GET", `/api/v1/${kind}`)).body as { items: { id: string }[] }).items[i]!.id;

/** Every place of the app, with the demo's records in the addresses that name one. */
export async function everyPlace(demo: RunningServer): Promise<readonly string[]> {
  const rig = await idOf(demo, "rigs", 0);
  const tap = await idOf(demo, "taps", 3);
  const plan = await idOf(demo, "plans", 0);
  return [
    "/",
    `/log/${rig}`,
    "/water",
    `/water/${tap}`,
    `/water/report?tap=${tap}`,
    "/water/meters",
    "/water/membrane",
    "/lab",
    "/size",
    "/size/vessel",
    "/size/membrane",
    "/size/claims",
    "/size/habits",
    "/size/plans",
    `/size/plans/${plan}`,
    "/size/prices",
    "/why",
    `/why/${rig}`,
    "/setup",
    "/setup/tap",
    "/setup/meter",
    "/setup/rig",
    `/setup/charge?rig=${rig}`,
    "/settings",
    "/nowhere",
  ];
}
