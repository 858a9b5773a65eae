import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  chargeLedgers,
  PART,
  reasonSeen,
  storageFactor,
  type Charge,
  type ReasonSeen,
  type Vessel,
} from "@winter-bead/core";
import { expectedLitres, isCartridgeWork, isFilling } from "@winter-bead/core/src/refill";
import { useMemo, useState } from "react";
import { useSettings } from "../../data/settings";
import { act, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordForm } from "../../forms/RecordForm";
import { go as goTo } from "../../ui/go";
import { Card, HeavyButton, PlainButton, Row, TextButton } from "../../ui/boxes";
import { litres, scaleUnit, shown, threeDigits } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { Explained } from "../../ui/Explained";
import { inBooks } from "../rack/assess";
import { useLastStanding } from "../rack/useLastStanding";
import { BagPortions } from "../setup/BagPortions";
import { EndFields, FillFields } from "../setup/ChargeFields";
import { refillSteps, useRefillForm } from "../setup/refill-form";
import { usePlaceAfter } from "../setup/usePlaceAfter";
import { Dots } from "./Dots";
import { besideRefill, lookWords, presetOf, readingsOf, toppedUp } from "./finish";
import { finished } from "./guide-deeds";
import type { Guide } from "./useGuide";
import { guidedWords } from "./words";

interface FinishProps {
  readonly guide: Guide;
  readonly go: (at: number | undefined) => void;
  readonly onGiveUp: () => void;
}

/** So many of the open steps have their way here. */
const FIRST_OPEN = 3;

/** Steps that are open or left out, each with the way to it. */
function NotDone({ guide, go }: Pick<FinishProps, "guide" | "go">) {
  const states = guide.steps.map((step, at) => ({ step, at, state: guide.work?.steps.get(step.id) }));
  const open = states.filter(({ state }) => state?.outcome !== "done" && state?.outcome !== "skipped");
  const left = states.filter(({ state }) => state?.outcome === "skipped");
  return (
    <>
      {open.length > 0 ? (
        <View testID="still-open">
          <Strong color="$rowan">{open.length === 1 ? "One step is open" : `${open.length} steps are open`}</Strong>
          {open.slice(0, FIRST_OPEN).map(({ step, at }) => (
            <TextButton key={step.id} onPress={() => go(at)}>
              {step.title}
            </TextButton>
          ))}
          {open.length > FIRST_OPEN ? <Small>{`and ${open.length - FIRST_OPEN} more after them`}</Small> : null}
        </View>
      ) : null}
      {left.map(({ step, state }) => (
        <Body key={step.id} testID="left-out-line">{`Left out: ${step.short}. ${state?.note ?? ""}`}</Body>
      ))}
    </>
  );
}

/** What was read, in words. */
function ReadWords({ guide, now }: { readonly guide: Guide; readonly now: number }) {
  const { records: meters } = useRecords("meters");
  const { last, first } = readingsOf(guide, now);
  const words = (visit: typeof last) =>
    visit?.readings.map(({ value, meterId, scale }) => {
      const by = scale ?? meters.find(({ id }) => id === meterId)?.scale ?? "nacl";
      return `${threeDigits(value)} ${scaleUnit(by)}`;
    })[0];
  const said = [
    words(last) ? `Last reading ${words(last)}` : "",
    words(first) ? `first reading ${words(first)}` : "no first reading yet: log one after a minute of flow",
  ].filter(Boolean);
  return <Body testID="read-words">{`${said.join("; ")}.`.replace(/^./, (letter) => letter.toUpperCase())}</Body>;
}

function Frame({
  guide,
  go,
  onGiveUp,
  onKeep,
  button,
  children,
}: FinishProps & { readonly onKeep: () => void; readonly button: string; readonly children: React.ReactNode }) {
  const name = guidedWords(guide.guided, guide.facts.rig.name);
  return (
    <Screen
      title={`${name}: look it over`}
      footer={
        <View padding="$3" flexDirection="row" gap="$2">
          <PlainButton onPress={() => go(guide.steps.length - 1)} label="Look at the step before" testID="step-back">
            ‹
          </PlainButton>
          <View flex={1}>
            <HeavyButton onPress={onKeep} testID="finish">
              {button}
            </HeavyButton>
          </View>
        </View>
      }
    >
      <View gap="$4">
        <Dots guide={guide} at={guide.steps.length} onGo={go} />
        <NotDone guide={guide} go={go} />
        {children}
        <Row flexWrap="wrap" columnGap="$4">
          <TextButton href="/weeks">Leave, go on later</TextButton>
          <TextButton onPress={onGiveUp} testID="give-up">
            Give it up
          </TextButton>
        </Row>
      </View>
    </Screen>
  );
}

/** A cartridge or a membrane: its change is kept, with what the old one looked like. */
function FinishPart(props: FinishProps) {
  const { guide } = props;
  const now = guide.facts.now;
  const part = guide.guided as "sediment" | "carbon" | "membrane";
  const keep = async () => {
    const words = `${PART.of[part]} of ${guide.facts.rig.name}: changed.`;
    const done = await act(guidedWords(guide.guided, guide.facts.rig.name), [
      ...besideRefill(guide, now),
      finished(guide),
    ]);
    showToast({ words, undo: done.undo });
    goTo("/weeks/upkeep");
  };
  return (
    <Frame {...props} onKeep={() => void keep()} button="Keep it: changed today">
      <Card>
        <Strong>{`New ${PART.of[part].toLowerCase()}, from today on`}</Strong>
        <Body>{lookWords(guide) ?? "Nothing was noted of the old one."}</Body>
        {part === "membrane" ? <ReadWords guide={guide} now={now} /> : null}
      </Card>
    </Frame>
  );
}

/** What the old charge's readings bear out, the last one of this work among them. */
function useSeen(guide: Guide, now: number): ReasonSeen | undefined {
  const { facts, vessel, charge } = guide;
  return useMemo(() => {
    const { last } = readingsOf(guide, now);
    const visits = last ? [...facts.visits, { id: "last", ...last }] : facts.visits;
    const books = inBooks({ ...facts, vessel, visits });
    const ledger = chargeLedgers(books).find((each) => each.charge.id === charge?.id);
    return ledger && reasonSeen(ledger, vessel);
  }, [guide, facts, vessel, charge?.id, now]);
}

function NewCharge({
  form,
  vessel,
  bags,
  isTopUp,
}: {
  readonly form: ReturnType<typeof useRefillForm>;
  readonly vessel: Vessel;
  readonly bags: React.ReactNode;
  readonly isTopUp: boolean;
}) {
  const { units } = useSettings();
  const [open, setOpen] = useState(false);
  const charge = form.bodiesNow()["charge"] as Partial<Charge>;
  const { text, unit } = shown("resinVolume", charge.resinLitres ?? NaN, units);
  return (
    <View gap="$3">
      <Heading>{isTopUp ? "Topped up" : "The new charge"}</Heading>
      <Row flexWrap="wrap" columnGap="$3">
        <Strong testID="new-charge">
          {`${text} ${unit} of ${charge.grade ?? ""} resin in ${vessel.name}, ${charge.packing === "settled" ? "well settled" : "not settled"}, in ${charge.minutes ?? "?"} min`}
        </Strong>
        {isTopUp ? null : (
          <TextButton onPress={() => setOpen(!open)} expanded={open} testID="change-charge">
            {open ? "Close" : "Change something"}
          </TextButton>
        )}
      </Row>
      {open ? <FillFields form={form} vessel={vessel} bags={<></>} /> : null}
      {bags}
    </View>
  );
}

/** What the new charge should give at this rig's feed, with its working. */
function ShouldGive({ form, guide }: { readonly form: ReturnType<typeof useRefillForm>; readonly guide: Guide }) {
  const { units } = useSettings();
  const standing = useLastStanding(guide.facts);
  const charge = form.bodiesNow()["charge"] as unknown as Charge;
  if (!standing || !(standing.feed.typical > 0) || !Number.isFinite(charge.resinLitres)) return null;
  const stored = charge.stored && storageFactor(charge.stored);
  const explanation = expectedLitres({
    ...{ resin: charge.resinLitres, capacity: standing.ownCapacity.median, feed: standing.feed.typical },
    ...{ throughput: standing.limitThroughput, worth: stored?.ok ? stored.value : 1 },
  });
  return (
    <Explained explanation={explanation}>
      <Body testID="should-give">{`It should give about ${litres(explanation.value, units)} to the limit at this feed.`}</Body>
    </Explained>
  );
}

/** Beads went in, or another vessel came: the old charge ends and the new one begins, all in one act. */
function FinishVessel(props: FinishProps & { readonly comesIn: Vessel }) {
  const { guide, comesIn } = props;
  const { facts, vessel, charge, guided } = guide;
  const [now] = useState(() => clockNow());
  const { records: bags } = useRecords("bags");
  const placeAfter = usePlaceAfter(facts, vessel.id);
  const seen = useSeen(guide, now);
  const isTopUp = guided === "top-up";
  const ends = isTopUp ? undefined : charge;
  const stock = isFilling(guided) ? guide.stock : NO_STOCK;
  const preset = useMemo(() => presetOf(guide, comesIn, now), [guide, comesIn, now]);
  const into = useMemo(() => ({ ...facts, vessel: comesIn }), [facts, comesIn]);
  const form = useRefillForm(into, ends, seen, stock, preset);
  const keep = () =>
    keepTyped(form, async (bodies) => {
      const filled = bodies["charge"] as unknown as Charge;
      const done = await act(guidedWords(guided, facts.rig.name), [
        ...(isTopUp && charge ? [toppedUp(charge, filled)] : refillSteps(bodies, ends, bags)),
        ...(isTopUp ? [] : placeAfter.steps(comesIn.id, filled.filledAt, guided === "exchange")),
        ...besideRefill(guide, now),
        finished(guide),
      ]);
      return { ...done, words: `${facts.rig.name}: all of it is kept.`, away: `/?rig=${facts.rig.id}` };
    });
  return (
    <Frame
      {...props}
      onKeep={() => void keep()}
      button={isTopUp ? "Keep it: topped up" : "Close the old, start the new"}
    >
      <RecordForm form={form}>
        {ends ? <EndFields form={form} part="old" seen={seen} /> : null}
        <NewCharge
          form={form}
          vessel={comesIn}
          isTopUp={isTopUp}
          bags={stock.length > 0 ? <BagPortions form={form} stock={stock} facts={into} /> : null}
        />
        {isTopUp ? null : placeAfter.asked}
        {isTopUp ? null : <ShouldGive form={form} guide={guide} />}
        <ReadWords guide={guide} now={now} />
        {isTopUp ? <Small>Nothing is learnt from a mixture of old and fresh beads.</Small> : null}
      </RecordForm>
    </Frame>
  );
}

const NO_STOCK = [] as const;

/** All that was done, looked over: one act keeps it, and one undo takes it back. */
export function FinishScreen(props: FinishProps) {
  const { guide } = props;
  const { records: vessels } = useRecords("vessels");
  if (isCartridgeWork(guide.guided)) return <FinishPart {...props} />;
  const chosen = guide.work?.found.vesselId;
  const comesIn = guide.guided === "swap" ? vessels.find(({ id }) => id === chosen) : guide.vessel;
  if (!comesIn) {
    const at = guide.steps.findIndex(({ id }) => id === "vessel-in");
    return (
      <Screen title={guidedWords(guide.guided, guide.facts.rig.name)}>
        <Card gap="$3">
          <Body>Which vessel came in is not said yet.</Body>
          <HeavyButton onPress={() => props.go(at)}>Say which</HeavyButton>
        </Card>
      </Screen>
    );
  }
  return <FinishVessel {...props} comesIn={comesIn} />;
}
