import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import type { RankedOption, Result, SizeAnswer, SizeInput, Tap, Use } from "@winter-bead/core";
import {
  explainDemandSpread,
  explainWithout,
  optionFigures,
  planQuestion,
  WITHOUT_ASSUMPTIONS,
  withoutOwnWater,
} from "@winter-bead/core/src/sizing";
import { router } from "expo-router";
import { memo, useMemo, useState } from "react";
import { useLastOne } from "../../data/last-one";
import { useNewestAnswer } from "../../data/newest-answer";
import { roomFor } from "../../ui/room";
import { change, keep, useRecords } from "../../data/store";
import { Card, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { litresRange } from "../../ui/format";
import { useWide } from "../../ui/width";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { planBody } from "./keep-plan";
import { days, daysRange, wholeMoney } from "./money";
import { OptionCard } from "./OptionCard";
import { OptionWall } from "./OptionWall";
import { PinnedTable } from "./PinnedTable";
import { SchoolsCard } from "./SchoolsCard";
import { OF_BEFORE, SizeBar } from "./SizeBar";
import { NoTap, SizeScreen } from "./SizeScreen";
import { TradeOff } from "./TradeOff";
import { planner } from "./useLives";
import { useWork, type Work } from "./useWork";
import { WorkInputs } from "./WorkInputs";

/** What is asked, with all that a plan kept of its answer must agree with. */
interface Asked {
  readonly input: SizeInput;
  readonly tap: Tap;
  readonly use: Use;
  readonly currency: string;
}

const askOptions = ({ input }: Asked): Promise<Result<SizeAnswer>> =>
  planner.run((worker) => worker.rankOptions(input));

const MOST_SHOWN = 6;
const MOST_IMPOSSIBLE = 24;
const MOST_PINNED = 3;

/** What an answer needs of the work: none of the figures that are being typed. */
interface Kept extends Pick<Work, "patch" | "prices" | "units"> {
  readonly typed: Pick<Work["typed"], "pinned" | "changing">;
}

/** The same until something in it changes: an answer is not drawn again for a digit typed under it. */
function useKept({ typed, patch, prices, units }: Work): Kept {
  const { pinned, changing } = typed;
  return useMemo(
    () => ({ typed: { pinned, changing }, patch, prices, units }),
    [pinned, changing, patch, prices, units],
  );
}

interface SizedProps {
  readonly work: Kept;
  readonly asked: Asked;
  readonly answer: SizeAnswer;
}

/** Keeps an option as a plan, or as the next version of the plan that is being changed. */
function useKeeping({ work, asked, answer }: SizedProps) {
  const { records: plans } = useRecords("plans");
  return async (option: RankedOption) => {
    const { input, ...rest } = asked;
    const body = planBody({ option, demand: answer.demand, work: input, ...rest, now: new Date(clockNow()) });
    const changing = plans.find(({ id }) => id === work.typed.changing);
    if (changing) {
      const { name, rigId, inUseSince, note } = changing;
      const { undo } = await change("plans", changing, { ...body, name, rigId, inUseSince, note });
      work.patch({ changing: "" });
      showToast({ words: `Kept: ${name}, version ${changing.version + 1}.`, undo });
      return router.push({ pathname: "/size/plans/[plan]", params: { plan: changing.id } });
    }
    const { id, undo } = await keep("plans", body);
    showToast({ words: `Kept: ${body.name}.`, undo });
    return router.push({ pathname: "/size/plans/[plan]", params: { plan: id } });
  };
}

/** One option with what can be done with it. */
function Option({
  option,
  first = false,
  ...props
}: SizedProps & { readonly option: RankedOption; readonly first?: boolean }) {
  const { work, asked } = props;
  const { typed, patch, prices, units } = work;
  const onKeep = useKeeping(props);
  const pinned = typed.pinned.includes(option.name);
  const onPin = () =>
    patch({
      pinned: pinned
        ? typed.pinned.filter((name) => name !== option.name)
        : [...typed.pinned, option.name].slice(-MOST_PINNED),
    });
  return (
    <OptionCard
      option={option}
      work={asked.input}
      prices={prices}
      units={units}
      first={first}
      pinned={pinned}
      onPin={onPin}
      onKeep={() => void onKeep(option)}
    />
  );
}

/** What the best option has to beat: bought water, and doing without. */
function Without({ work, answer }: SizedProps) {
  const { prices } = work;
  const asked = { ...WITHOUT_ASSUMPTIONS, wage: prices.prices.wage };
  const found = withoutOwnWater(answer.demand, asked);
  if (!found.ok) return null;
  const { bought, trips, wiping } = found.value;
  const because = explainWithout(answer.demand, asked, found.value, prices.currency);
  const lines = [
    [`Bought water: ${wholeMoney(bought, prices.currency)} a year`, because.bought],
    [`and the trips to carry it: ${wholeMoney(trips, prices.currency)}`, because.trips],
    ...(wiping === undefined
      ? []
      : [[`No pure water, wiping or coming again: ${wholeMoney(wiping, prices.currency)}`, because.wiping] as const]),
  ] as const;
  return (
    <View testID="without">
      <Heading>Without a vessel</Heading>
      {lines.map(([words, explanation]) => (
        <Explained key={words} explanation={explanation}>
          <Body textDecorationLine="underline" textDecorationStyle="dotted" minHeight={30}>
            {words}
          </Body>
        </Explained>
      ))}
    </View>
  );
}

/** Days below which a charge of resin alone is no way to work. */
const WEEKS_ONLY = 21;

/** Says plainly when resin alone is the wrong tool. */
function AloneIsWrong({ answer, work }: SizedProps) {
  const alone = answer.options.filter(({ spec }) => spec.before === "nothing");
  const longest = alone.reduce((most, { daysBusiest }) => Math.max(most, daysBusiest.typical), 0);
  const cheapest = alone.filter(({ feasible }) => feasible).sort((a, b) => a.cost.total - b.cost.total)[0];
  const [best] = answer.options;
  const behindRo = answer.options
    .filter(({ feasible, spec }) => feasible && spec.before.includes("membrane"))
    .sort((a, b) => a.cost.total - b.cost.total)[0];
  if (!behindRo || !best?.spec.before.includes("membrane")) return null;
  const words =
    longest < WEEKS_ONLY
      ? `Resin alone is the wrong tool here: even the largest vessel lasts ${days(longest)} in the busiest month.`
      : cheapest
        ? `Resin alone would cost ${wholeMoney(cheapest.cost.total, work.prices.currency)} a year at least, ${wholeMoney(cheapest.cost.total - behindRo.cost.total, work.prices.currency)} more than behind RO.`
        : "Resin alone doesn’t do this work.";
  return (
    <View testID="alone">
      <Body>{words}</Body>
      <TextButton href="/size/membrane">When RO pays</TextButton>
    </View>
  );
}

/** The best one and what the work takes: the answer, before anything else. */
const Best = memo(function Best(props: SizedProps) {
  const { answer, work } = props;
  const [first] = answer.options;
  const { week } = answer.demand;
  if (!first?.feasible)
    return (
      <Card testID="no-option" borderColor="$ink">
        <Strong>Nothing here does this work</Strong>
        <Body>{first?.because}</Body>
      </Card>
    );
  return (
    <View gap="$3">
      <Option {...props} option={first} first />
      <Explained explanation={explainDemandSpread(props.asked.input.demand.items, week.high)}>
        <Body testID="demand" textDecorationLine="underline" textDecorationStyle="dotted">
          {`Your work takes ${litresRange(week.low, week.high, work.units)} a week.`}
        </Body>
      </Explained>
      <AloneIsWrong {...props} />
    </View>
  );
});

/** The choice that is left, the trade-off drawn, and what can't do it with its reason. */
const Others = memo(function Others(props: SizedProps) {
  const { answer, work, asked } = props;
  const [all, setAll] = useState(false);
  const { typed, patch, prices, units } = work;
  const feasible = answer.options.filter((option) => option.feasible);
  // Numbered as they stand here: those that are beaten in everything leave no holes.
  const choice = feasible.filter((option) => !option.dominated).map((option, i) => ({ ...option, place: i + 1 }));
  const placed = feasible.map((option) => choice.find(({ name }) => name === option.name) ?? option);
  const impossible = answer.options.filter((option) => !option.feasible);
  const pinned = typed.pinned.flatMap((name) =>
    [...choice, ...feasible].filter((option) => option.name === name).slice(0, 1),
  );
  const [best] = feasible;
  return (
    <View gap="$4" testID="ranked">
      <OptionWall options={feasible} units={units} />
      <PinnedTable
        options={pinned}
        currency={prices.currency}
        units={units}
        onUnpin={(name) => patch({ pinned: typed.pinned.filter((each) => each !== name) })}
      />
      {choice.slice(1, MOST_SHOWN).map((option) => (
        <Option key={option.name} {...props} option={option} />
      ))}
      {feasible.length > 1 ? (
        <TradeOff
          options={placed}
          currency={prices.currency}
          label={`${feasible.length} options by money and refills a year; ${choice.length} that nothing beats in everything`}
        />
      ) : null}
      {best ? (
        <SchoolsCard option={best.spec} work={asked.input} use={asked.use} prices={prices} units={units} />
      ) : null}
      <Without {...props} />
      <Small>{`${feasible.length - choice.length} more would do it, each dearer and more work than one above.`}</Small>
      <TextButton onPress={() => setAll(!all)} expanded={all} testID="show-impossible">
        {all ? "Close" : `${impossible.length} others can’t do it: why`}
      </TextButton>
      {all
        ? impossible
            .slice(0, MOST_IMPOSSIBLE)
            .map((option) => <Body key={option.name} testID="impossible">{`${option.name}: ${option.because}`}</Body>)
        : null}
    </View>
  );
});

/** Which plan the next kept option becomes a version of. */
const Changing = memo(function Changing({ work }: { readonly work: Kept }) {
  const { records } = useRecords("plans");
  const plan = records.find(({ id }) => id === work.typed.changing);
  if (!plan) return null;
  return (
    <Card testID="changing">
      <Body>{`You are changing “${plan.name}”: what you keep becomes version ${plan.version + 1} of it.`}</Body>
      <TextButton onPress={() => work.patch({ changing: "" })}>Leave it as it is</TextButton>
    </Card>
  );
});

/** The option that stood first, with the figures as they are typed: at once, while all others are priced anew. */
function useFirstAtOnce(asked: Asked | undefined, ranked: Pick<SizedProps, "asked" | "answer"> | undefined) {
  return useMemo(() => {
    const [first] = ranked?.answer.options ?? [];
    if (!first?.feasible) return undefined;
    const question = asked && planQuestion(asked.input);
    const figures = question?.ok ? optionFigures(first.spec, question.value) : undefined;
    return figures?.ok ? figures.value : first;
  }, [asked, ranked]);
}

/** What stands first, in sight over the figures that are typed. */
const FirstBar = ({
  first,
  trouble,
  currency,
}: {
  readonly first: ReturnType<typeof useFirstAtOnce>;
  readonly trouble: string | undefined;
  readonly currency: string;
}) => (
  <SizeBar
    name={first?.name}
    value={first && wholeMoney(first.cost.total, currency)}
    under={first && `a year · a refill every ${daysRange(first.daysBusiest.low, first.daysBusiest.high)}`}
    trouble={trouble}
    waiting="Pricing every option…"
  />
);

/** Which vessel, train and resin for this work and this tap, and what it costs. */
export function VesselScreen() {
  const wide = useWide();
  const work = useWork();
  const { water, parsed, pending } = work;
  const asked = useMemo<Asked | undefined>(
    () =>
      water && parsed?.input
        ? { input: parsed.input, tap: water.tap, use: work.typed.use, currency: work.prices.currency }
        : undefined,
    [water, parsed, work.typed.use, work.prices.currency],
  );
  const { answer, answered, working } = useNewestAnswer(asked, askOptions);
  const ranked = useLastOne(
    useMemo(() => (answer?.ok && answered ? { asked: answered, answer: answer.value } : undefined), [answer, answered]),
  );
  const first = useFirstAtOnce(asked, ranked);
  const kept = useKept(work);
  if (!water || !parsed)
    return (
      <SizeScreen title="Which vessel">
        <NoTap pending={pending}>The right vessel follows from the water and the work: name the tap first.</NoTap>
      </SizeScreen>
    );
  const sized = ranked && { work: kept, ...ranked };
  const chemistryKnown = water.described !== undefined && water.described.hidden.co2 > 0;
  const trouble = parsed.input ? (answer && !answer.ok ? answer.fault.message : undefined) : "A figure is missing.";
  const best = (
    <View
      opacity={working ? 0.6 : 1}
      aria-busy={working}
      testID="options"
      minHeight={roomFor(answer !== undefined || wide)}
      gap="$3"
    >
      <Changing work={kept} />
      {sized ? <Best {...sized} /> : null}
      {trouble && wide ? <Body role="alert">{sized ? `${trouble} ${OF_BEFORE}` : trouble}</Body> : null}
      {parsed.input && !answer && !sized ? <Body role="status">Pricing every option…</Body> : null}
      {chemistryKnown ? null : (
        <Small role="note" testID="chemistry-unknown">
          {`Carbon dioxide of ${water.tap.name} is not known, and no membrane holds it back: behind one the ranges hold what is likely of it. KH and pH make them narrower.`}
        </Small>
      )}
    </View>
  );
  const bar = <FirstBar first={first} trouble={trouble} currency={work.prices.currency} />;
  const others = sized ? <Others {...sized} /> : null;
  const detail = (
    <View gap="$4">
      {best}
      {others}
    </View>
  );
  return (
    <SizeScreen title="Which vessel" detail={wide ? detail : undefined} bar={wide ? undefined : bar}>
      <View gap="$5">
        {wide ? null : best}
        <WorkInputs work={work} />
        {wide ? null : others}
      </View>
    </SizeScreen>
  );
}
