import { View } from "@tamagui/core";
import { onScale, PART, type Part, type Service, type Stage, type StageAtTap } from "@winter-bead/core";
import { useEffect, useState } from "react";
import { useRecords } from "../../data/store";
import { Row, TextButton } from "../../ui/boxes";
import { litres, momentInWords, scaleUnit, threeDigits, type Units } from "../../ui/format";
import { useSettings } from "../../data/settings";
import { StageSign } from "../../ui/StageSign";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { stagesInWorker } from "../rack/assess-service";
import type { RigView } from "../rack/useRigs";
import { wholeMoney } from "../size/money";
import { usePrices } from "../size/usePrices";

const NAMES: Readonly<Record<StageAtTap["kind"], string>> = {
  sediment: "Sediment",
  carbon: "Carbon",
  membrane: "Membrane",
  degasser: "Degasser",
};

/** What a stage is, as it was noted. */
function whatItIs(stage: Stage | undefined): string {
  if (!stage || stage.kind === "resin") return "";
  const microns = "microns" in stage && stage.microns !== undefined ? `${stage.microns} microns` : "";
  if (stage.kind === "carbon")
    return [microns, stage.chlorineGrams === undefined ? "" : `takes ${stage.chlorineGrams} g of chlorine`]
      .filter(Boolean)
      .join(", ");
  if (stage.kind === "membrane") return `holds back ${threeDigits(100 * stage.rejection)} %`;
  return stage.kind === "degasser" && stage.hours !== undefined ? `${stage.hours} h of air` : microns;
}

/** What it does to the water here. */
function whatItDoes({ kind, feed, litres: gives, chlorineAYear, chlorineMonths }: StageAtTap, units: Units): string {
  const ppm = (ec25: number) => `${threeDigits(onScale(ec25, "nacl"))} ${scaleUnit("nacl")}`;
  if (kind === "membrane")
    return `At this tap ${ppm(feed.without)} becomes ${ppm(feed.with)}: a charge gives ${litres(gives.with, units)} in place of ${litres(gives.without, units)}.`;
  if (kind === "degasser") {
    const same = Math.abs(gives.with / gives.without - 1) < 0.01;
    return same
      ? "It takes carbon dioxide, which no meter sees: with a report of the tap it can be said how much."
      : `A charge gives ${litres(gives.with, units)} in place of ${litres(gives.without, units)}: the carbon dioxide is gone.`;
  }
  if (kind === "carbon") {
    if (chlorineAYear === undefined)
      return "It takes chlorine, which harms membranes and beads: nobody noted how much this tap has.";
    const lasts = chlorineMonths === undefined ? "" : `; its capacity lasts ${threeDigits(chlorineMonths)} months`;
    return `About ${threeDigits(chlorineAYear)} g of chlorine reach it in a year${lasts}.`;
  }
  return "It keeps rust and sand from what stands behind it.";
}

/** What leaving it out costs, or whether adding it would pay. */
function worthWords({ stageId, kind, saves, costs, charges }: StageAtTap, currency: string): string {
  if (kind === "sediment" || kind === "carbon")
    return stageId === undefined
      ? `About ${wholeMoney(costs, currency)} a year for its cartridges.`
      : `It costs about ${wholeMoney(costs, currency)} a year; left out, the next stage clogs or is harmed.`;
  const fewer = `${threeDigits(charges.without)} charges a year become ${threeDigits(charges.with)}`;
  const money = `saves ${wholeMoney(saves, currency)} of resin and work a year for ${wholeMoney(costs, currency)}`;
  if (stageId !== undefined) return `${fewer}: it ${money}. Left out, that is lost.`;
  return saves > costs ? `${fewer}: it ${money}. It would pay.` : `${fewer}: it ${money}. It would not pay now.`;
}

const lastOf = (services: readonly Service[], rigId: string, part: string) =>
  services
    .filter((each) => each.rigId === rigId && each.part === part)
    .map(({ at }) => Date.parse(at))
    .sort((a, b) => b - a)[0];

/** Each stage before the resin: what it is, since when, what it does here, what it is worth; then what the next would be. */
export function StagesAtTap({ view: { facts, assessment, awaited } }: { readonly view: RigView }) {
  const { units } = useSettings();
  const { currency, from } = usePrices();
  const { records: services } = useRecords("services");
  const [stages, setStages] = useState<readonly StageAtTap[]>();
  const owners = assessment?.owners;
  useEffect(() => {
    // By the grade alone the litres would be others for a moment: what the crew's charges taught is waited for.
    if (awaited) return;
    let left = false;
    void stagesInWorker(facts, owners)
      .then((found) => left || setStages(found))
      .catch(() => undefined);
    return () => {
      left = true;
    };
  }, [facts, owners, awaited]);
  if (!stages) return <Small role="status">Working out what each stage does here…</Small>;
  const lineOf = (stage: StageAtTap) => {
    const known = facts.rig.stages.find(({ id }) => id === stage.stageId);
    const last =
      stage.stageId === undefined || !(stage.kind in PART.of) ? undefined : lastOf(services, facts.rig.id, stage.kind);
    const since = last === undefined ? "" : `new since ${momentInWords(last, facts.now)}`;
    return (
      <View
        key={stage.stageId ?? stage.kind}
        paddingVertical="$2"
        borderTopColor="$line"
        borderTopWidth={1}
        testID={`at-tap-${stage.kind}`}
      >
        <Row gap="$2">
          <StageSign kind={stage.kind} size={28} />
          <Strong>{NAMES[stage.kind]}</Strong>
          <Small>{[whatItIs(known), since].filter(Boolean).join("; ")}</Small>
        </Row>
        <Body>{whatItDoes(stage, units)}</Body>
        <Small>{worthWords(stage, currency)}</Small>
        {stage.stageId !== undefined && stage.kind in PART.of ? (
          <TextButton
            href={`/refill?rig=${facts.rig.id}&what=${stage.kind as Part}`}
          >{`Change the ${NAMES[stage.kind].toLowerCase()}: lead me`}</TextButton>
        ) : null}
      </View>
    );
  };
  const there = stages.filter(({ stageId }) => stageId !== undefined);
  const next = stages.filter(({ stageId }) => stageId === undefined);
  return (
    <View gap="$2" testID="stages-at-tap">
      <Heading>Before the resin, at this tap</Heading>
      {there.length === 0 ? <Small>Nothing stands before it.</Small> : there.map(lineOf)}
      {next.length > 0 ? <Heading>What would come next</Heading> : null}
      {next.map(lineOf)}
      <Small>{`At your usual water and this tap’s feed; ${from}. Fewer stages first: one can be added later.`}</Small>
    </View>
  );
}
