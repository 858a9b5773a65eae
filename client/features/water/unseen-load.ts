import {
  describeReport,
  unseenBehindMembrane,
  type ReportValues,
  type Rig,
  type Tap,
  type UnseenLoad,
} from "@winter-bead/core";

/** Figures of a tap's newest report, the tap's own pH, alkalinity and silica filling the gaps. */
export function chemistryOf(tap: Tap, reported: ReportValues | undefined): ReportValues {
  const { ph, alkalinity, silica, temperature } = tap;
  const known = Object.entries({ ph, alkalinity, silica, temperature, ...reported });
  return Object.fromEntries(known.filter(([, value]) => value !== undefined));
}

/** What reaches a rig's resin from its usual tap and no meter shows; undefined where nothing tells. */
export function unseenOf(rig: Rig, tap: Tap | undefined, reported: ReportValues | undefined): UnseenLoad | undefined {
  if (!tap) return undefined;
  const values = chemistryOf(tap, reported);
  const described = describeReport({ ec25: 300, ...values });
  if (!described.ok) return undefined;
  const { co2, silica } = described.value.hidden;
  if (co2 + silica < 1e-4) return undefined;
  const passed = rig.stages.reduce(
    (share, stage) => (stage.kind === "membrane" ? share * (1 - stage.rejection) : share),
    1,
  );
  return unseenBehindMembrane({ co2, silica }, 1 - passed);
}
