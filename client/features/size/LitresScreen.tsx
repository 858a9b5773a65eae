import { View } from "@tamagui/core";
import { useMemo } from "react";
import { ofQuantities, useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { Card, PlainButton } from "../../ui/boxes";
import type { Units } from "../../ui/format";
import { Screen, useWide } from "../../ui/Screen";
import { Body, Title } from "../../ui/words";
import { SizeNav } from "./SizeNav";
import { useOwnHistory } from "./useOwnHistory";
import { BedFacts, Headline, Schools } from "./Answers";
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
  const outcome = question ? answerLitres(question, units) : undefined;
  const trouble = Object.values(errors)[0] ?? (outcome && "fault" in outcome ? outcome.fault.message : undefined);
  const inputs = <Inputs typed={typed} patch={patch} errors={errors} units={units} />;
  const { lives, working } = useLives(question);
  const answered = outcome && "answer" in outcome && question ? { answer: outcome.answer, question } : undefined;
  const first = answered ? (
    <View gap="$4" testID="answers">
      <Headline {...answered} kind={typed.kind} units={units} />
      <PlainButton href="/size/vessel" testID="open-options">
        Which vessel for your work
      </PlainButton>
      {lives ? <TwoLivesCard lives={lives} working={working} units={units} /> : null}
      <Schools answer={answered.answer} units={units} />
    </View>
  ) : (
    <Card>
      <Body role="alert">{trouble}</Body>
    </Card>
  );
  const then = answered ? <BedFacts answer={answered.answer} units={units} /> : null;
  if (wide)
    return (
      <Screen
        title={titleOf(units)}
        detail={
          <View gap="$5">
            {first}
            {then}
          </View>
        }
      >
        <SizeNav />
        {inputs}
      </Screen>
    );
  return (
    <Screen>
      <Title marginBottom={8}>{titleOf(units)}</Title>
      <SizeNav />
      <View gap="$5">
        {first}
        {inputs}
        {then}
      </View>
    </Screen>
  );
}

const titleOf = (units: Units) => (units === "us" ? "Gallons from this tap" : "Litres from this tap");
