import type { RunningServer } from "./running-server";

let counter = 0;

/** A fresh UUID of version 7. */
export const id = () => `01890000-0000-7000-8000-${(counter += 1).toString(16).padStart(12, "0")}`;

export const tapBody = (siteId: string) => ({
  siteId,
  name: "Yard tap",
  low: 80,
  typical: 96,
  high: 124,
  scale: "nacl",
});
export const vesselBody = {
  name: "Tank",
  kind: "screw-head-tank",
  grossVolume: 28,
  diameter: 254,
  fillFraction: 0.86,
  marks: { watch: 6, limit: 10, hard: 20, scale: "nacl" },
};

export interface SampleIds {
  readonly site: string;
  readonly tap: string;
  readonly meter: string;
  readonly vessel: string;
  readonly rig: string;
  readonly charge: string;
}

/** A crew's first rig, filled and ready to log. */
export async function firstRig(server: RunningServer): Promise<SampleIds> {
  const ids: SampleIds = { site: id(), tap: id(), meter: id(), vessel: id(), rig: id(), charge: id() };
  const bodies: readonly (readonly [string, string, object])[] = [
    ["sites", ids.site, { name: "Ropewalk yard" }],
    ["taps", ids.tap, tapBody(ids.site)],
    ["meters", ids.meter, { name: "Pocket", scale: "nacl", compensated: true }],
    ["vessels", ids.vessel, vesselBody],
    [
      "rigs",
      ids.rig,
      {
        name: "Van",
        use: "glass",
        tapId: ids.tap,
        flow: 3.2,
        stages: [{ kind: "resin", vesselId: ids.vessel }],
        jobName: "house",
        litresPerJob: 60,
      },
    ],
    [
      "charges",
      ids.charge,
      {
        vesselId: ids.vessel,
        rigId: ids.rig,
        grade: "virgin",
        resinLitres: 24,
        packing: "settled",
        filledAt: "2027-03-01T07:00:00.000Z",
        startTotal: 100,
      },
    ],
  ];
  for (const [kind, key, body] of bodies) {
    const { status } = await server.request("PUT", `/api/v1/${kind}/${key}`, body);
    if (status !== 201) throw new Error(`${kind} answered ${status}`);
  }
  return ids;
}

export const visitBody = (ids: SampleIds, output: number) => ({
  rigId: ids.rig,
  tapId: ids.tap,
  at: "2027-03-02T08:10:00.000Z",
  water: { by: "total", total: 250 },
  readings: [{ id: id(), point: "output", meterId: ids.meter, value: output }],
});
