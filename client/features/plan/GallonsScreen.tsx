import { capacityRange, type CapacityRange, type Grade } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { useDraft } from "../../data/draft";
import { useSettings } from "../../data/settings";
import { Card } from "../../ui/boxes";
import type { Units } from "../../ui/format";
import { Screen, useWide } from "../../ui/Screen";
import { Body, Title } from "../../ui/words";
import { useRigs } from "../run/useRigs";
import { BedFacts, Headline, Schools } from "./Answers";
import { answerGallons } from "./gallons";
import { Inputs } from "./Inputs";
import { parse, startWith, type Typed } from "./typed";

/** The owner's capacity with this resin, from a rig that has ended charges of it. */
function useOwnHistory(grade: Grade): CapacityRange | undefined {
  const { rigs } = useRigs();
  return useMemo(() => {
    const taught = rigs.find(
      (view) => (view.assessment?.lessons?.ended.length ?? 0) > 0 && view.assessment?.standing?.charge.grade === grade,
    );
    return taught?.assessment?.lessons && capacityRange(taught.assessment.lessons.grid);
  }, [rigs, grade]);
}

/** Gallons from this tap: every digit answers at once, under four schools side by side. */
export function GallonsScreen() {
  const { units } = useSettings();
  const wide = useWide();
  const initial = useMemo(() => startWith(units), [units]);
  const [typed, patch] = useDraft<Typed>(`gallons:${units}`, initial);
  const history = useOwnHistory(typed.grade);
  const { question, errors } = parse(typed, units, history);
  const outcome = question ? answerGallons(question, units) : undefined;
  const trouble = Object.values(errors)[0] ?? (outcome && "fault" in outcome ? outcome.fault.message : undefined);
  const inputs = <Inputs typed={typed} patch={patch} errors={errors} units={units} />;
  const answered = outcome && "answer" in outcome && question ? { answer: outcome.answer, question } : undefined;
  const first = answered ? (
    <View gap="$4" testID="answers">
      <Headline {...answered} kind={typed.kind} units={units} />
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
        {inputs}
      </Screen>
    );
  return (
    <Screen>
      <View gap="$5">
        <Title>{titleOf(units)}</Title>
        {first}
        {inputs}
        {then}
      </View>
    </Screen>
  );
}

const titleOf = (units: Units) => (units === "us" ? "Gallons from this tap" : "Litres from this tap");
