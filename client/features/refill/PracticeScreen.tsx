import { View } from "@tamagui/core";
import { MISTAKES, type GuideStep, type MistakeName } from "@winter-bead/core/src/refill";
import { useLocalSearchParams } from "expo-router";
import { useMemo, useState } from "react";
import { useDraft } from "../../data/draft";
import { Caution, Choice, HeavyButton, PlainButton, Row, TextButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";
import { Body, Small, Strong, Title } from "../../ui/words";
import { compositionAtResin, type Rig, type Tap, type WaterReport } from "@winter-bead/core";
import type { RigFacts } from "../rack/assess";
import { useLastStanding } from "../rack/useLastStanding";
import { useRigFacts } from "../rack/useRigs";
import { mistakeAt, practiceSetting, practiceSteps, SAMPLE_FEED, USUAL_VESSELS, type Practised } from "./practice";
import { PracticeOutcomeView } from "./PracticeOutcome";
import { StepPicture, type Pictured } from "./StepView";
import { useFocusOnStep } from "./useFocusOnStep";

const waterOf = (rig: Rig, tap: Tap | undefined, reports: readonly WaterReport[]) =>
  tap && compositionAtResin(rig, tap, reports);

/** Vessels to practise on: the crew's own, then a usual one of each kind. */
function usePractised(): readonly Practised[] {
  const { facts } = useRigFacts();
  return useMemo(
    () => [
      ...facts.map(({ rig, vessel, taps, reports }): Practised => ({
        ...{ vessel, use: rig.use, flow: rig.flow, litresPerJob: rig.litresPerJob, jobName: rig.jobName },
        ...{ feed: SAMPLE_FEED, feedIsRead: false },
        water: waterOf(
          rig,
          taps.find(({ id }) => id === rig.tapId),
          reports,
        ),
        behindMembrane: rig.stages.some(({ kind }) => kind === "membrane"),
      })),
      ...USUAL_VESSELS,
    ],
    [facts],
  );
}

/** With the water that its rig has, once that is known. */
function useWithWater(about: Practised, facts: RigFacts | undefined): Practised {
  const feed = useLastStanding(facts)?.feed;
  return useMemo(() => (feed ? { ...about, feed: feed.typical, feedIsRead: feed.isRead } : about), [about, feed]);
}

interface Typed {
  readonly vesselId: string;
  readonly at: number;
  /** What was done at each step where a mistake tempts. */
  readonly made: readonly MistakeName[];
}
/** The vessel is chosen before the first step. */
const BEFORE = -1;
const START: Typed = { vesselId: "", at: BEFORE, made: [] };
const NAME = "practice";

/** The right way and the tempting one, not always in the same order. */
function WhatDoYouDo({
  name,
  made,
  onChoose,
}: {
  readonly name: MistakeName;
  readonly made: boolean | undefined;
  readonly onChoose: (made: boolean) => void;
}) {
  const { right, tempting } = MISTAKES[name];
  const both = [
    { value: "right", label: right },
    { value: "tempting", label: tempting },
  ] as const;
  const options =
    name.length % 2 === 0 ? both : ([...both].reverse() as typeof both | readonly (typeof both)[number][]);
  return (
    <Choice
      label="What do you do?"
      value={made === undefined ? undefined : made ? "tempting" : "right"}
      options={options}
      onChange={(value) => onChoose(value === "tempting")}
      testID="what-do-you-do"
    />
  );
}

function PracticeStep({
  about,
  steps,
  at,
  typed,
  patch,
}: {
  readonly about: Practised;
  readonly steps: readonly GuideStep[];
  readonly at: number;
  readonly typed: Typed;
  readonly patch: (part: Partial<Typed>) => void;
}) {
  const step = steps[at]!;
  const tempts = mistakeAt(step);
  const [chosen, setChosen] = useState<boolean>();
  const made = chosen ?? (tempts && typed.made.includes(tempts) ? true : undefined);
  const next = steps[at + 1];
  const pictured: Pictured = {
    ...{ guided: "refill", vessel: about.vessel, setting: practiceSetting(about) },
    ...{ charge: undefined, work: undefined, stock: [] },
  };
  const go = () => {
    const others = typed.made.filter((name) => name !== tempts);
    patch({ at: at + 1, made: tempts && made ? [...others, tempts] : others });
  };
  return (
    <Screen
      name="Practice"
      footer={
        <View padding="$3" flexDirection="row" gap="$2">
          {at > 0 ? (
            <PlainButton onPress={() => patch({ at: at - 1 })} label="Look at the step before" testID="step-back">
              ‹
            </PlainButton>
          ) : null}
          <View flex={1}>
            <HeavyButton onPress={go} disabled={tempts !== undefined && made === undefined} testID="practice-next">
              {`${tempts ? "So. " : `${step.done}. `}Next: ${next ? next.short : "what came of it"}`}
            </HeavyButton>
          </View>
        </View>
      }
    >
      <View gap="$3">
        <Row justifyContent="space-between">
          <View flexShrink={1}>
            <Strong>Practice: nothing is kept</Strong>
            <Small testID="step-count">{`${at + 1} of ${steps.length}, ${about.vessel.name}`}</Small>
          </View>
          <TextButton onPress={() => patch({ at: steps.length })} testID="to-outcome">
            To its end
          </TextButton>
        </Row>
        <Title testID="step-title">{step.title}</Title>
        <StepPicture guide={pictured} step={step} litres={undefined} />
        {tempts ? <WhatDoYouDo name={tempts} made={made} onChoose={setChosen} /> : null}
      </View>
    </Screen>
  );
}

/** Which vessel is practised on, before the first step. */
function Beginning({
  all,
  about,
  patch,
  count,
}: {
  readonly all: readonly Practised[];
  readonly about: Practised;
  readonly patch: (part: Partial<Typed>) => void;
  readonly count: number;
}) {
  return (
    <Screen title="Practise a refill">
      <View gap="$4">
        <Body>
          The same guide, with a simulated vessel. It does what you tell it to, wrong things too, and shows at the end
          what would have come of it. Nothing of it touches what is logged.
        </Body>
        <Choice
          label="On which vessel"
          value={about.vessel.id}
          options={all.map(({ vessel }) => ({ value: vessel.id, label: vessel.name }))}
          onChange={(vesselId) => patch({ vesselId })}
          testID="practice-vessel"
        />
        <Caution>In earnest the cautions hold: gloves, eyes, back, and no bead down a drain.</Caution>
        <HeavyButton onPress={() => patch({ at: 0, made: [] })} testID="practice-start">
          {`Begin: ${count} steps`}
        </HeavyButton>
        <TextButton onPress={() => patch({ at: count })} testID="to-outcome">
          To the mistakes and what each costs
        </TextButton>
      </View>
    </Screen>
  );
}

/** A refill practised: the guide asks, the vessel answers, and nothing is kept. */
export function PracticePlace() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { facts } = useRigFacts();
  const all = usePractised();
  const [typed, patch] = useDraft<Typed>(NAME, START);
  const ofRig = facts.find((each) => each.rig.id === rig)?.vessel.id;
  const chosen = all.find(({ vessel }) => vessel.id === (typed.vesselId || ofRig)) ?? all[0]!;
  const about = useWithWater(
    chosen,
    facts.find((each) => each.vessel.id === chosen.vessel.id),
  );
  const steps = useMemo(() => practiceSteps(about), [about]);
  const { at } = typed;
  useFocusOnStep(String(at));
  if (at <= BEFORE) return <Beginning all={all} about={about} patch={patch} count={steps.length} />;
  if (at >= steps.length)
    return (
      <PracticeOutcomeView
        about={about}
        made={typed.made}
        onMade={(made) => patch({ made })}
        onAgain={() => patch({ at: BEFORE, made: [] })}
      />
    );
  return <PracticeStep key={steps[at]!.id} about={about} steps={steps} at={at} typed={typed} patch={patch} />;
}
