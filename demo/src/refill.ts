import type { Charge, Found, RefillStep, Rig, Vessel } from "@winter-bead/core";
import { guideFor, isCartridgeWork, usualWays, type GuideSetting } from "@winter-bead/core/src/refill";

const MINUTE = 60_000;

interface Refilled {
  readonly nextId: () => string;
  readonly rig: Rig;
  readonly vessel: Vessel;
}

type Noted = Pick<RefillStep, "outcome"> & { readonly found?: Found; readonly note?: string };

/** Steps of one piece of work, a minute or two apart, so that `pivot` was done at a time. */
function tellWork(
  { nextId, rig, vessel }: Refilled,
  guided: RefillStep["guided"],
  pivot: string,
  at: number,
  noted: Readonly<Record<string, Noted>>,
): readonly RefillStep[] {
  const ways = usualWays(vessel.kind, vessel.fillFraction);
  const setting: GuideSetting = {
    ...{ guided, kind: vessel.kind, ways, use: rig.use, isEmpty: false, isHeavy: true, behindMembrane: false },
  };
  const names = [...guideFor(setting).map(({ id }) => id), "end"];
  const workId = nextId();
  const steps = names.map((step, i): RefillStep => {
    const when = at + 1.6 * MINUTE * (i - names.indexOf(pivot));
    const own = noted[step] ?? { outcome: step === "end" ? "finished" : "done" };
    return {
      ...{ id: nextId(), workId, guided, rigId: rig.id, ...(isCartridgeWork(guided) ? {} : { vesselId: vessel.id }) },
      ...{ step, at: new Date(when).toISOString(), ...own },
    };
  });
  return steps;
}

/** The newest filling of a tank, led step by step; and a carbon cartridge that came out rusty. */
export function tellRefills(tank: Refilled, charge: Charge, bay: Refilled, carbonAt: number): readonly RefillStep[] {
  return [
    ...tellWork(tank, "refill", "fill", Date.parse(charge.filledAt), {
      ready: { outcome: "done", found: { tools: 10 } },
      parts: { outcome: "done", found: { parts: 4 } },
      fill: { outcome: "done", found: { resinLitres: charge.resinLitres, grade: charge.grade } },
      seal: { outcome: "done", found: { newSeals: true, parts: 4 } },
      spent: { outcome: "skipped", note: "The sieve bag drips till tomorrow." },
      tidy: { outcome: "done", found: { tools: 10 } },
    }),
    ...tellWork(bay, "carbon", "swap", carbonAt, {
      look: { outcome: "done", found: { look: "rust" }, note: "Brown on the outside, the core still black." },
    }),
  ];
}
