import { useDraft } from "../../data/draft";
import { useHalfFilled } from "../../ui/half-filled";
import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import type { Guided, Vessel } from "@winter-bead/core";
import { FINISH, TROUBLES, type GuideStep, type TroubleName } from "@winter-bead/core/src/refill";
import { useEffect, useState } from "react";
import { useSettings } from "../../data/settings";
import { useKeptFresh } from "../../data/store";
import { TextField } from "../../ui/fields";
import { keepTyped } from "../../forms/keep-typed";
import { RecordForm } from "../../forms/RecordForm";
import { Card, HeavyButton, PlainButton, Pressable, Row, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { isForThePlace } from "../../ui/keys";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { showToast } from "../../ui/toast";
import { Body, Small, Strong, Title } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { Dots } from "./Dots";
import { FinishScreen } from "./FinishScreen";
import { giveUp, note, notAfterAll } from "./guide-deeds";
import { useStepForm } from "./step-form";
import { StepView } from "./StepView";
import { Timer } from "./Timer";
import { useAwake } from "./useAwake";
import { useFocusOnStep } from "./useFocusOnStep";
import { useGuide, type Guide } from "./useGuide";
import { guidedWords } from "./words";

/** A step that is left out, with the reason. */
function LeaveOut({
  guide,
  step,
  onLeft,
}: {
  readonly guide: Guide;
  readonly step: GuideStep;
  readonly onLeft: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [{ why }, patch, clear] = useDraft(`left-out:${guide.id}:${step.id}`, { why: "" });
  useHalfFilled(why !== "");
  if (!open && why === "")
    return (
      <TextButton onPress={() => setOpen(true)} expanded={false} testID="leave-out">
        Leave this step out
      </TextButton>
    );
  const leave = async () => {
    if (why.trim() === "") return;
    const done = await note(guide, step, { outcome: "skipped", note: why.trim() });
    clear();
    showToast({ words: `Left out: ${step.short}.`, undo: done.undo });
    onLeft();
  };
  return (
    <View gap="$2">
      <TextField
        label="Why it is left out"
        value={why}
        onChange={(text) => patch({ why: text })}
        testID="why-left-out"
      />
      <PlainButton onPress={() => void leave()} disabled={why.trim() === ""} testID="left-out">
        Skip this step
      </PlainButton>
    </View>
  );
}

/** What was noted of a step that is looked at again. */
function Noted({ guide, step }: { readonly guide: Guide; readonly step: GuideStep }) {
  const state = guide.work?.steps.get(step.id);
  if (!state || state.outcome === "waiting") return null;
  const words = {
    done: "Done",
    skipped: "Left out",
    failed: "Did not go well",
  }[state.outcome];
  return (
    <Row flexWrap="wrap" columnGap="$3">
      <Small testID="noted">
        {`${words}, ${momentInWords(Date.parse(state.at), clockNow())}${state.note ? `: ${state.note}` : ""}`}
      </Small>
      {state.outcome === "failed" ? null : (
        <TextButton onPress={() => void notAfterAll(guide, step)} testID="not-after-all">
          Not after all
        </TextButton>
      )}
    </Row>
  );
}

/** The arrows look one step back or on. */
function useArrows(at: number, last: number, go: (at: number) => void): void {
  const { keys } = useSettings();
  useEffect(() => {
    if (keys === "off") return;
    const onKeyDown = (event: KeyboardEvent) => {
      const by = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
      const target = event.target as HTMLElement | null;
      if (by === 0 || !isForThePlace(event) || target?.getAttribute("role") === "radio") return;
      const next = at + by;
      if (next >= 0 && next <= last) go(next);
    };
    document.addEventListener("keydown", onKeyDown);
    return () => document.removeEventListener("keydown", onKeyDown);
  }, [at, last, go, keys]);
}

/** One heavy button that says what was done and what comes, and the way back beside it. */
function Onward({
  step,
  next,
  onBack,
  onDone,
}: {
  readonly step: GuideStep;
  readonly next: GuideStep | undefined;
  readonly onBack?: () => void;
  readonly onDone: () => void;
}) {
  return (
    <View padding="$3" flexDirection="row" gap="$2" backgroundColor="$paper">
      {onBack ? (
        <PlainButton onPress={onBack} label="Look at the step before" testID="step-back">
          ‹
        </PlainButton>
      ) : null}
      <View flex={1}>
        <HeavyButton onPress={onDone} testID="step-done">
          {`${step.done}. Next: ${next ? next.short : "look it over"}`}
        </HeavyButton>
      </View>
    </View>
  );
}

function StepScreen({
  guide,
  at,
  go,
  stay,
  stepList,
}: {
  readonly guide: Guide;
  readonly at: number;
  readonly go: (at: number | undefined) => void;
  readonly stay: () => void;
  readonly stepList: React.ReactNode;
}) {
  const { units } = useSettings();
  const wide = useWide();
  const step = guide.steps[at]!;
  const form = useStepForm(guide, step, units);
  const next = guide.steps[at + 1];
  const name = guidedWords(guide.guided, guide.facts.rig.name);
  const state = guide.work?.steps.get(step.id);
  const isNoted = state?.outcome === "done" || state?.outcome === "skipped";

  const done = () =>
    keepTyped(form, async (bodies) => {
      const { found, note: words } = bodies["step"] as { found?: never; note?: string };
      const kept = await note(guide, step, {
        outcome: "done",
        ...(found ? { found } : {}),
        ...(words ? { note: words } : {}),
      });
      go(at + 1 < guide.steps.length ? at + 1 : guide.steps.length);
      return kept;
    });
  const seen = (trouble: TroubleName) => {
    if (step.check) void note(guide, step, { outcome: "failed", note: TROUBLES[trouble].seen });
  };
  const buttons = (
    <Onward step={step} next={next} {...(at > 0 ? { onBack: () => go(at - 1) } : {})} onDone={() => void done()} />
  );
  const body = (
    <RecordForm form={form}>
      <View gap="$3" {...({ onPointerDownCapture: stay, onKeyDownCapture: stay } as object)}>
        <Title testID="step-title">{step.title}</Title>
        <StepView guide={guide} step={step} form={form} onSeen={seen} />
        {step.timer ? (
          <Timer
            key={step.id}
            step={step as GuideStep & { readonly timer: NonNullable<GuideStep["timer"]> }}
            state={state}
            onStart={(until) => void note(guide, step, { outcome: "waiting", until })}
          />
        ) : null}
        <Noted guide={guide} step={step} />
        {isNoted ? null : <LeaveOut key={step.id} guide={guide} step={step} onLeft={() => go(at + 1)} />}
      </View>
    </RecordForm>
  );
  const header = (
    <View gap="$2" marginBottom="$3">
      <Row justifyContent="space-between" alignItems="center">
        <View flexShrink={1}>
          <Strong>{name}</Strong>
          <Small testID="step-count">{`${at + 1} of ${guide.steps.length}`}</Small>
        </View>
        <TextButton href="/weeks" testID="leave">
          Leave, go on later
        </TextButton>
      </Row>
      <Dots guide={guide} at={at} onGo={go} />
    </View>
  );
  if (wide)
    return (
      <Screen name={name} detail={body} footer={buttons}>
        {header}
        {stepList}
      </Screen>
    );
  return (
    <Screen name={name} footer={buttons}>
      {header}
      {body}
    </Screen>
  );
}

const STATES = { done: "done", skipped: "left out", failed: "did not go well", waiting: "a time is running" } as const;

/** Every step with its state; on a wide screen beside the one that is done. */
function StepList({
  guide,
  at,
  go,
}: {
  readonly guide: Guide;
  readonly at: number;
  readonly go: (at: number) => void;
}) {
  return (
    <View testID="step-list">
      {guide.steps.map((step, i) => {
        const state = guide.work?.steps.get(step.id);
        return (
          <Pressable
            key={step.id}
            onPress={() => go(i)}
            aria-current={i === at ? "step" : undefined}
            flexDirection="row"
            justifyContent="space-between"
            borderBottomColor="$line"
            borderBottomWidth={1}
            paddingVertical="$1"
            gap="$2"
          >
            <Body flexShrink={1} fontWeight={i === at ? "700" : "400"}>{`${i + 1}. ${step.title}`}</Body>
            <Small>{state ? STATES[state.outcome] : ""}</Small>
          </Pressable>
        );
      })}
    </View>
  );
}

/** The work was ended, by this phone or another. */
function Ended({ guide, name }: { readonly guide: Guide; readonly name: string }) {
  const finished = guide.work?.ended === "finished";
  return (
    <Screen title={name}>
      <Card gap="$3">
        <Strong>{finished ? "All of it is done and kept." : "It was given up."}</Strong>
        <Body color="$soft">
          {finished
            ? "The charge and its first reading stand in the history, where each can be corrected."
            : "What was noted of it stays; a new start begins at the first step."}
        </Body>
        <HeavyButton href={`/?rig=${guide.facts.rig.id}`}>To the rack</HeavyButton>
        {finished ? null : <TextButton href={`/refill?rig=${guide.facts.rig.id}`}>Begin anew</TextButton>}
      </Card>
    </Screen>
  );
}

/** Milliseconds after which what another phone did at this vessel is seen here. */
const OTHERS_SEEN_WITHIN = 4_000;

/** Hands led step by step; left at any step, it goes on from there, on any phone. */
export function GuideScreen({
  facts,
  vessel,
  guided,
}: {
  readonly facts: RigFacts;
  readonly vessel: Vessel;
  readonly guided: Guided;
}) {
  const guide = useGuide(facts, vessel, guided);
  const [shown, setShown] = useState<number>();
  const wide = useWide();
  useAwake();
  useKeptFresh("refill-steps", OTHERS_SEEN_WITHIN);
  const at = Math.min(shown ?? guide.open, guide.steps.length);
  useArrows(at, guide.steps.length, setShown);
  useFocusOnStep(guide.steps[at]?.id ?? FINISH);
  const name = guidedWords(guided, facts.rig.name);
  if (guide.work?.ended) return <Ended guide={guide} name={name} />;
  const list = wide ? <StepList guide={guide} at={at} go={setShown} /> : null;
  // A page that nobody touched follows what another phone does; once touched it stays until its own hand goes on.
  const stay = () => {
    if (shown === undefined) setShown(at);
  };
  if (at >= guide.steps.length)
    return <FinishScreen key={guide.id} guide={guide} go={setShown} onGiveUp={() => void giveUp(guide)} />;
  return <StepScreen key={guide.steps[at]!.id} guide={guide} at={at} go={setShown} stay={stay} stepList={list} />;
}
