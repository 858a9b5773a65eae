import { View } from "@tamagui/core";
import {
  GRADE,
  onScale,
  scaleFactor,
  type Before,
  type CrossingInput,
  type Explanation,
  type Grade,
  type OptionSpec,
  type Result,
  type Scale,
  type SizeInput,
  type StageWorth,
  type Train,
  type VesselSize,
} from "@winter-bead/core";
import {
  ADDITION_WORDS,
  CROSSING_LOOKED,
  explainCrossing,
  explainOption,
  explainSaving,
  optionFigures,
  optionName,
  planQuestion,
} from "@winter-bead/core/src/sizing";
import { memo, useMemo } from "react";
import { useDraft } from "../../data/draft";
import { useLastOne } from "../../data/last-one";
import { useNewestAnswer } from "../../data/newest-answer";
import { roomFor } from "../../ui/room";
import { Card, Choice, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { litres, scaleUnit, threeDigits, type Units } from "../../ui/format";
import { useWide } from "../../ui/width";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { optionsOf } from "../../forms/options";
import { COST_PARTS } from "./cost-parts";
import { wholeMoney } from "./money";
import { PaysChart } from "./PaysChart";
import type { PaysAnswer } from "./plan.worker";
import { OF_BEFORE, SizeBar } from "./SizeBar";
import { NoTap, SizeScreen } from "./SizeScreen";
import { planner } from "./useLives";
import type { CrewPrices } from "./usePrices";
import { useVessels } from "./useVessels";
import { useWork, type Work } from "./useWork";
import { More } from "./More";
import { WorkInputs } from "./WorkInputs";

const ask = (asked: CrossingInput): Promise<Result<PaysAnswer>> => planner.run((worker) => worker.askPays(asked));

interface TypedPays {
  /** Empty: the cheapest on either side. */
  readonly vessel: string;
  readonly grade: Grade;
  readonly train: Train;
  readonly before: Extract<Before, "membrane" | "boosted-membrane">;
}

const START: TypedPays = { vessel: "", grade: "virgin", train: "single", before: "membrane" };

const TRAIN_OPTIONS = [
  { value: "single", label: "One vessel" },
  { value: "twin", label: "Two side by side" },
  { value: "lead-lag", label: "Two in series" },
] as const satisfies readonly { value: Train; label: string }[];

/** One addition against the resin it saves, part by part. */
function Worth({
  worth,
  currency,
  units,
  because,
}: {
  readonly worth: StageWorth;
  readonly currency: string;
  readonly units: Units;
  readonly because: Explanation | undefined;
}) {
  const name = ADDITION_WORDS[worth.addition];
  const on = worth.without.spec.before === "nothing" ? "on resin alone" : "on the membrane";
  const title = `${name[0]!.toUpperCase()}${name.slice(1)}, ${on}`;
  const words = worth.pays
    ? `saves ${wholeMoney(worth.saves, currency)} a year`
    : `costs ${wholeMoney(-worth.saves, currency)} a year more than it saves`;
  return (
    <Card testID={`worth-${worth.addition}`}>
      <Strong>{title}</Strong>
      <Explained explanation={because}>
        <Body textDecorationLine={because ? "underline" : "none"} textDecorationStyle="dotted">{`It ${words}.`}</Body>
      </Explained>
      <More label="Part by part">
        <View>
          {COST_PARTS.filter(([part]) => Math.abs(worth.change[part]) >= 0.5).map(([part, label]) => (
            <View key={part} flexDirection="row" justifyContent="space-between">
              <Body>{label}</Body>
              <Body>{`${worth.change[part] > 0 ? "+" : "−"}${wholeMoney(Math.abs(worth.change[part]), currency)}`}</Body>
            </View>
          ))}
          <View flexDirection="row" justifyContent="space-between">
            <Strong>A year</Strong>
            <Strong>{`${worth.change.total > 0 ? "+" : "−"}${wholeMoney(Math.abs(worth.change.total), currency)}`}</Strong>
          </View>
          {worth.addition === "second-membrane" ? (
            <Small>
              What is left of the water is thicker and scales a membrane sooner where it is hard: its maker’s limits
              have the last word.
            </Small>
          ) : null}
          <Small>{`From ${litres(worth.without.litresPerCharge, units)} a charge to ${litres(worth.with.litresPerCharge, units)}.`}</Small>
        </View>
      </More>
    </Card>
  );
}

/** A feed on the tap's scale, as far down as one looked. */
function feedWords(ec25: number | undefined, scale: Scale): string {
  if (ec25 === undefined) return "no feed";
  return ec25 <= CROSSING_LOOKED.from
    ? `${threeDigits(onScale(CROSSING_LOOKED.from, scale))} or less`
    : threeDigits(onScale(ec25, scale));
}

/** The same with its unit. */
const feedWith = (ec25: number | undefined, scale: Scale) =>
  ec25 === undefined ? feedWords(ec25, scale) : `${feedWords(ec25, scale)} ${scaleUnit(scale)}`;

/** The working of one option's yearly cost. */
function explainCost(work: SizeInput, option: OptionSpec, prices: CrewPrices): Explanation | undefined {
  const question = planQuestion(work);
  if (!question.ok) return undefined;
  const figures = optionFigures(option, question.value);
  const explained = figures.ok ? explainOption(figures.value, question.value, prices) : undefined;
  return explained?.ok ? explained.value.cost : undefined;
}

/** The working of what an addition saves. */
function explainWorth(work: SizeInput, worth: StageWorth, prices: CrewPrices): Explanation | undefined {
  const changed =
    worth.addition === "second-membrane" ? { ...work, before: { ...work.before, secondMembrane: true } } : work;
  const without = explainCost(work, worth.without.spec, prices);
  const withIt = explainCost(changed, worth.with.spec, prices);
  return without && withIt ? explainSaving("Saved a year", without, withIt) : undefined;
}

interface AnswerProps {
  readonly pays: PaysAnswer;
  readonly asked: CrossingInput;
  /** What an answer needs of the work: none of the figures that are being typed. */
  readonly work: Pick<Work, "prices" | "units" | "water">;
  readonly scale: Scale;
}

/** What carbon dioxide does to the answer: its cost here, and where RO would pay by other counts. */
function CarbonDioxide({ crossing, work, scale }: Pick<AnswerProps, "work" | "scale"> & Pick<PaysAnswer, "crossing">) {
  const { currency } = work.prices;
  const { atTap } = crossing;
  const co2Known = (work.water?.described?.hidden.co2 ?? 0) > 0;
  const co2 =
    atTap.behind !== undefined && atTap.behindWithoutCo2 !== undefined ? atTap.behind - atTap.behindWithoutCo2 : 0;
  return (
    <Card testID="pays-co2">
      <Heading>What carbon dioxide does to it</Heading>
      {co2Known ? (
        <>
          <Body>
            {co2 >= 0.5
              ? `RO lets it through: behind the membrane it costs ${wholeMoney(co2, currency)} of resin and refills a year here.`
              : "RO lets it through, but it hardly moves a meter: counted by the meter it costs nothing here."}
          </Body>
          {(
            [
              ["Counted to the first leak, RO pays from", crossing.ifLeak],
              ["To what a meter shows, from", crossing.ifMeter],
              ["Were there none, from", crossing.withoutCo2],
              ["With an aerated barrel behind it, from", crossing.aerated],
            ] as const
          ).map(([name, ec25]) => (
            <Explained
              key={name}
              explanation={ec25 === undefined ? undefined : explainCrossing(ec25, scale, undefined, currency)}
            >
              <View flexDirection="row" justifyContent="space-between" gap="$3" minHeight={30}>
                <Body flexShrink={1}>{name}</Body>
                <Strong textDecorationLine={ec25 === undefined ? "none" : "underline"} textDecorationStyle="dotted">
                  {feedWith(ec25, scale)}
                </Strong>
              </View>
            </Explained>
          ))}
        </>
      ) : (
        <Body role="note">
          {`That of ${work.water!.tap.name} is not known; behind a membrane what is likely of it counts. KH and pH, under Water, make it certain.`}
        </Body>
      )}
    </Card>
  );
}

const Answer = memo(function Answer({ pays, asked, work, scale }: AnswerProps) {
  const { crossing, worth } = pays;
  const { currency } = work.prices;
  const { paysFrom, feed, atTap } = crossing;
  const unit = scaleUnit(scale);
  const pure = paysFrom.typical;
  const saved = atTap.alone !== undefined && atTap.behind !== undefined ? atTap.alone - atTap.behind : undefined;
  const { sides } = crossing;
  const costs = useMemo(() => {
    const alone = explainCost(asked.work, sides.alone, work.prices);
    const behind = explainCost(asked.work, sides.behind, work.prices);
    return alone && behind ? { alone, behind } : undefined;
  }, [asked, sides, work.prices]);
  const savings = useMemo(
    () => worth.map((each) => explainWorth(asked.work, each, work.prices)),
    [worth, asked.work, work.prices],
  );
  return (
    <View gap="$4">
      <Card borderColor="$ink" testID="pays-from">
        {pure === undefined ? (
          <Strong fontSize="$4">RO doesn’t begin to pay for this work</Strong>
        ) : (
          <Explained explanation={explainCrossing(pure, scale, crossing.costThere, currency)}>
            <View>
              <Body>RO begins to pay at a feed of</Body>
              <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
                <Big fontSize="$7" lineHeight="$7" textDecorationLine="underline" textDecorationStyle="dotted">
                  {feedWords(pure, scale)}
                </Big>
                <Strong>{unit}</Strong>
              </View>
            </View>
          </Explained>
        )}
        <Small testID="pays-sides">{`${optionName(sides.behind)}, against ${optionName(sides.alone)}.`}</Small>
        <Body>{`With much work and weak resin from ${feedWith(paysFrom.low, scale)}, with little work and strong resin from ${feedWith(paysFrom.high, scale)}.`}</Body>
        {saved === undefined ? null : (
          <Explained explanation={costs && explainSaving("Saved a year at your tap", costs.alone, costs.behind)}>
            <Body testID="pays-here" textDecorationLine={costs ? "underline" : "none"} textDecorationStyle="dotted">
              {`Your tap, ${threeDigits(onScale(feed.typical, scale))} ${unit}: `}
              <Strong>
                {saved > 0
                  ? `it saves ${wholeMoney(saved, currency)} a year.`
                  : `it costs ${wholeMoney(-saved, currency)} a year more than resin alone.`}
              </Strong>
            </Body>
          </Explained>
        )}
      </Card>
      <PaysChart
        curve={crossing.curve}
        feed={feed}
        meets={pure}
        scale={scale}
        currency={currency}
        label={`Yearly cost of resin alone and behind RO over the feed; they meet at ${feedWords(pure, scale)} ${unit}, your tap has ${threeDigits(onScale(feed.typical, scale))}`}
      />
      <CarbonDioxide crossing={crossing} work={work} scale={scale} />
      <Heading>Is more worth it?</Heading>
      {worth.map((each, i) => (
        <Worth
          key={`${each.addition}-${each.without.spec.before}`}
          worth={each}
          currency={currency}
          units={work.units}
          because={savings[i]}
        />
      ))}
    </View>
  );
});

/** Money a year that RO saves at the tap with the figures as they are typed: at once, while the feed is looked for. */
function useSavedAtOnce(asked: CrossingInput | undefined, pays: PaysAnswer | undefined): number | undefined {
  return useMemo(() => {
    if (!pays) return undefined;
    const { sides, atTap } = pays.crossing;
    const question = asked && planQuestion(asked.work);
    const costs = [sides.alone, sides.behind].map((side) => {
      const figures = question?.ok ? optionFigures(side, question.value) : undefined;
      return figures?.ok ? figures.value.cost.total : undefined;
    });
    const [alone, behind] = [costs[0] ?? atTap.alone, costs[1] ?? atTap.behind];
    return alone === undefined || behind === undefined ? undefined : alone - behind;
  }, [asked, pays]);
}

/** What RO saves at this tap, in sight over the figures that are typed. */
function SavedBar({
  pays,
  asked,
  trouble,
  scale,
  work,
}: {
  readonly pays: PaysAnswer | undefined;
  readonly asked: CrossingInput | undefined;
  readonly trouble: string | undefined;
  readonly scale: Scale;
  readonly work: Work;
}) {
  const saved = useSavedAtOnce(asked, pays);
  const under =
    saved === undefined
      ? "can’t be told for this work"
      : `${saved > 0 ? "saved a year" : "more a year than resin alone"} · it pays from ${feedWith(pays?.crossing.paysFrom.typical, scale)}`;
  return (
    <SizeBar
      name={pays && "RO at your tap"}
      value={saved === undefined ? "–" : wholeMoney(Math.abs(saved), work.prices.currency)}
      under={under}
      trouble={trouble}
      waiting="Looking for the feed…"
    />
  );
}

const VesselAsked = ({
  typed,
  patch,
  vessels,
  vessel,
}: {
  readonly typed: TypedPays;
  readonly patch: (part: Partial<TypedPays>) => void;
  readonly vessels: readonly VesselSize[];
  readonly vessel: VesselSize | undefined;
}) => (
  <>
    <Choice
      label="Vessel on both sides"
      value={vessel?.name ?? ""}
      options={[
        { value: "", label: "The cheapest of each" },
        ...vessels.map(({ name }) => ({ value: name, label: name })),
      ]}
      onChange={(name) => patch({ vessel: name })}
    />
    {vessel ? (
      <>
        <Choice label="Train" value={typed.train} options={TRAIN_OPTIONS} onChange={(train) => patch({ train })} />
        <Choice label="Resin" value={typed.grade} options={optionsOf(GRADE)} onChange={(grade) => patch({ grade })} />
        <Choice
          label="Membrane"
          value={typed.before}
          options={[
            { value: "membrane", label: "On the tap’s pressure" },
            { value: "boosted-membrane", label: "With a booster pump" },
          ]}
          onChange={(before) => patch({ before })}
        />
      </>
    ) : null}
  </>
);

/** The feed from which a membrane pays, drawn, with what carbon dioxide, a pump and a barrel do to it. */
export function PaysScreen() {
  const wide = useWide();
  const work = useWork();
  const [typed, patch] = useDraft<TypedPays>("pays", START);
  const vessels = useVessels();
  const vessel = vessels.find(({ name }) => name === typed.vessel);
  const { water, parsed, pending } = work;
  const asked = useMemo<CrossingInput | undefined>(
    () =>
      parsed?.input && {
        work: parsed.input,
        ...(vessel
          ? { option: { vessel, train: typed.train, grade: typed.grade, supply: "bag" }, before: typed.before }
          : {}),
      },
    [parsed, vessel, typed],
  );
  const { answer, answered, working } = useNewestAnswer(asked, ask);
  const found = useLastOne(
    useMemo(() => (answer?.ok && answered ? { asked: answered, pays: answer.value } : undefined), [answer, answered]),
  );
  const { prices, units } = work;
  const facts = useMemo(() => ({ prices, units, water }), [prices, units, water]);
  if (!water)
    return (
      <SizeScreen title="When RO pays">
        <NoTap pending={pending}>
          Whether a membrane pays follows from the water and the work: name the tap first.
        </NoTap>
      </SizeScreen>
    );
  const scale: Scale = scaleFactor(water.tap.scale) === 1 ? "ec" : water.tap.scale;
  const trouble = asked ? (answer && !answer.ok ? answer.fault.message : undefined) : "A figure is missing.";
  const shownAnswer = (
    <View
      opacity={working ? 0.6 : 1}
      aria-busy={working}
      testID="pays"
      minHeight={roomFor(answer !== undefined || wide)}
    >
      {found ? <Answer {...found} work={facts} scale={scale} /> : null}
      {trouble && wide ? <Body role="alert">{found ? `${trouble} ${OF_BEFORE}` : trouble}</Body> : null}
      {asked && !found && !answer ? <Body role="status">Looking for the feed…</Body> : null}
    </View>
  );
  const inputs = (
    <View gap="$4">
      <VesselAsked typed={typed} patch={patch} vessels={vessels} vessel={vessel} />
      <More label="The work it is for" testID="pays-work">
        <WorkInputs work={work} />
      </More>
      <TextButton onPress={() => patch(START)}>Start again</TextButton>
    </View>
  );
  const bar = <SavedBar pays={found?.pays} asked={asked} trouble={trouble} scale={scale} work={work} />;
  return (
    <SizeScreen title="When RO pays" detail={wide ? shownAnswer : undefined} bar={wide ? undefined : bar}>
      <View gap="$5">
        {wide ? null : shownAnswer}
        {inputs}
      </View>
    </SizeScreen>
  );
}
