import { View } from "@tamagui/core";
import { useDeferredValue, useMemo } from "react";
import { useLastOne } from "../../data/last-one";
import { ofQuantities, useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { Card, PlainButton } from "../../ui/boxes";
import type { Units } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Body, Title } from "../../ui/words";
import { SizeNav } from "./SizeNav";
import { useOwnHistory } from "./useOwnHistory";
import { AnswerBar, BedFacts, Headline, Schools } from "./Answers";
import { answerLitres } from "./litres";
import { Inputs } from "./Inputs";
import { TwoLivesCard } from "./TwoLivesCard";
import { useLives } from "./useLives";
import { parse, startWith, type Typed } from "./typed";

const inOtherUnits = ofQuantities<Typed>({
  ...{ resin: "resinVolume", ratedResin: "resinVolume", grossVolume: "volume", ratedVolume: "volume" },
  ...{ diameter: "length", emptyWeight: "weight", flow: "flow", temperature: "temperature" },
});

/** Litres from this tap: every digit answers at once, under four schools side by side. */
export function LitresScreen() {
  const { units } = useSettings();
  const wide = useWide();
  const initial = useMemo(() => startWith(units), [units]);
  const [typed, patch] = useUnitDraft<Typed>("gallons", initial, inOtherUnits);
  const history = useOwnHistory(typed.grade);
  const { question, errors } = parse(typed, units, history);
  // The same figures give the same answer: other parts of the screen may change as they like.
  const asked = JSON.stringify(question ?? null);
  const worked = useMemo(
    () => (question ? { question, outcome: answerLitres(question, units) } : undefined),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [asked, units],
  );
  const outcome = worked?.outcome;
  const trouble = Object.values(errors)[0] ?? (outcome && "fault" in outcome ? outcome.fault.message : undefined);
  const inputs = <Inputs typed={typed} patch={patch} errors={errors} units={units} />;
  const { lives, working } = useLives(question);
  const answered = useLastOne(
    useMemo(
      () =>
        worked && "answer" in worked.outcome ? { answer: worked.outcome.answer, question: worked.question } : undefined,
      [worked],
    ),
  );
  // What stands below follows the answer in sight by a moment, so that no key waits for it.
  const later = useDeferredValue(answered);
  const rest = answered ? (
    <View gap="$4" testID="answers">
      {wide ? <Headline {...answered} kind={typed.kind} units={units} /> : null}
      {wide && trouble ? <Body role="alert">{`${trouble} The litres are of the figures before.`}</Body> : null}
      <PlainButton href="/size/vessel" testID="open-options">
        Which vessel for your work
      </PlainButton>
      {lives ? <TwoLivesCard lives={lives} working={working} units={units} /> : null}
      {later ? <Schools answer={later.answer} units={units} /> : null}
    </View>
  ) : (
    <Card>
      <Body role="alert">{trouble}</Body>
    </Card>
  );
  const then = later ? <BedFacts answer={later.answer} units={units} /> : null;
  if (wide)
    return (
      <Screen
        title={titleOf(units)}
        detail={
          <View gap="$5">
            {rest}
            {then}
          </View>
        }
      >
        <SizeNav />
        {inputs}
      </Screen>
    );
  return (
    <Screen
      name={titleOf(units)}
      bar={
        <AnswerBar
          answer={answered?.answer}
          question={answered?.question}
          kind={typed.kind}
          units={units}
          trouble={trouble}
        />
      }
    >
      <Title marginBottom={8}>{titleOf(units)}</Title>
      <SizeNav />
      <View gap="$5">
        {inputs}
        {rest}
        {then}
      </View>
    </Screen>
  );
}

const titleOf = (units: Units) => (units === "us" ? "Gallons from this tap" : "Litres from this tap");
