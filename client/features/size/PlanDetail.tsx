import { useDraft } from "../../data/draft";
import { useHalfFilled } from "../../ui/half-filled";
import { clockNow, clockNowIso } from "../../data/clock";
import { View } from "@tamagui/core";
import type { OutcomeLine } from "@winter-bead/core";
import {
  explainDemandSpread,
  explainOption,
  explainOutcome,
  optionFigures,
  optionName,
  planOutcome,
  planQuestion,
} from "@winter-bead/core/src/sizing";
import { useQuery } from "@tanstack/react-query";
import { router } from "expo-router";
import { useMemo, useState } from "react";
import { fetchVersions, type Kept } from "../../data/api";
import { isExample } from "../../data/example";
import { changed, kept } from "../../data/acts";
import { act, change, newId, takeBack, useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { Card, Caution, HeavyButton, PlainButton, Row, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { TextField } from "../../ui/fields";
import { dayOfMoment, litresRange, shown, threeDigits, type Units } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Big, Body, Heading, Small, Strong, Title } from "../../ui/words";
import { useRigFacts } from "../rack/useRigs";
import { buildRig } from "./build-rig";
import { COST_PARTS } from "./cost-parts";
import { typedOfPlan } from "./keep-plan";
import { daysRange, money, moneyRange, wholeMoney } from "./money";
import { planActual } from "./rig-log";
import { planFiles } from "./plan-downloads";
import type { Work } from "./useWork";
import { itemInWords } from "./work-words";

interface DetailProps {
  readonly plan: Kept<"plans">;
  readonly work: Work;
}

/** The plan's name, changed in place. */
function Name({ plan }: { readonly plan: Kept<"plans"> }) {
  const [{ typed }, patch, clear] = useDraft<{ readonly typed?: string }>(`plan-name:${plan.id}`, {});
  const setTyped = (text: string) => patch({ typed: text });
  useHalfFilled(typed !== undefined);
  const save = () => {
    const name = (typed ?? "").trim().slice(0, 80);
    clear();
    const { id: _, version: _v, voided: _b, ...body } = plan;
    if (name !== "" && name !== plan.name) void change("plans", plan, { ...body, name });
  };
  if (typed === undefined)
    return (
      <View>
        <Title render="h2">{plan.name}</Title>
        <TextButton onPress={() => setTyped(plan.name)} testID="rename">
          Another name
        </TextButton>
      </View>
    );
  return (
    <View gap="$2">
      <TextField label="Name of the plan" value={typed} onChange={setTyped} testID="plan-name" />
      <PlainButton onPress={save} testID="keep-name">
        Keep the name
      </PlainButton>
    </View>
  );
}

/** What the plan expects, each number with its working from the work and the prices it was kept with. */
function Expected({ plan, units }: { readonly plan: Kept<"plans">; readonly units: Units }) {
  const { expected, currency, option, work } = plan;
  const because = useMemo(() => {
    const question = planQuestion(work);
    const figures = question.ok ? optionFigures(option, question.value) : undefined;
    if (!question.ok || !figures?.ok) return undefined;
    const words = { currency, from: `the prices of ${dayOfMoment(plan.keptAt)}`, assumed: false };
    const explained = explainOption(figures.value, question.value, words);
    return explained.ok ? explained.value : undefined;
  }, [work, option, currency, plan.keptAt]);
  const weight = shown("weight", expected.weight, units);
  const lines = [
    [
      "Water of a week",
      litresRange(expected.week.low, expected.week.high, units),
      explainDemandSpread(work.demand.items, expected.week.high),
    ],
    ["Water of one refill", litresRange(expected.litres.low, expected.litres.high, units), because?.litres],
    [
      "Refill every, busiest month",
      daysRange(expected.daysBusiest.low, expected.daysBusiest.high),
      because?.daysBusiest,
    ],
    [
      "Refill every, quietest month",
      daysRange(expected.daysQuietest.low, expected.daysQuietest.high),
      because?.daysQuietest,
    ],
    ["To buy", wholeMoney(expected.purchase, currency), because?.purchase],
    ...(expected.perJob === undefined ? [] : [["A job", money(expected.perJob, currency), because?.perJob] as const]),
    ["Weight of one vessel, wet", `${weight.text} ${weight.unit}`, because?.weight],
    ...COST_PARTS.filter(([part]) => expected.cost[part] > 0).map(
      ([part, name]) => [`${name}, a year`, wholeMoney(expected.cost[part], currency), because?.parts[part]] as const,
    ),
  ] as const;
  return (
    <View testID="plan-expected">
      <Explained explanation={because?.cost}>
        <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
          <Big fontSize="$6" lineHeight="$6" textDecorationLine="underline" textDecorationStyle="dotted">
            {wholeMoney(expected.cost.total, currency)}
          </Big>
          <Body>{`a year (${moneyRange(expected.costRange.low, expected.costRange.high, currency)})`}</Body>
        </View>
      </Explained>
      {lines.map(([name, value, why]) => (
        <Explained key={name} explanation={why}>
          <View flexDirection="row" justifyContent="space-between" gap="$3" minHeight={30} alignItems="baseline">
            <Body flexShrink={1}>{name}</Body>
            <Strong textDecorationLine={why ? "underline" : "none"} textDecorationStyle="dotted">
              {value}
            </Strong>
          </View>
        </Explained>
      ))}
    </View>
  );
}

const LINE_NAMES: Readonly<Record<OutcomeLine["what"], string>> = {
  week: "Water of a week",
  charge: "Water of one refill",
  refills: "Refills a year",
  cost: "Cost of a year",
};
const STATE_WORDS = { "as-planned": "as planned", above: "more than planned", below: "less than planned" } as const;

function shownLine({ what, planned, actual }: OutcomeLine, currency: string, units: Units) {
  if (what === "cost")
    return { planned: moneyRange(planned.low, planned.high, currency), actual: wholeMoney(actual, currency) };
  if (what === "refills")
    return {
      planned: `${threeDigits(planned.low)} to ${threeDigits(planned.high)}`,
      actual: threeDigits(actual),
    };
  return { planned: litresRange(planned.low, planned.high, units), actual: litresRange(actual, actual, units) };
}

/** The plan beside what the log says since it is in use. */
function Outcome({ plan, units }: { readonly plan: Kept<"plans">; readonly units: Units }) {
  const { facts } = useRigFacts();
  const rig = facts.find((each) => each.rig.id === plan.rigId);
  const actual = useMemo(() => rig && planActual(plan, rig), [plan, rig]);
  if (!actual || !rig) return null;
  const lines = planOutcome(plan.expected, actual);
  const because = explainOutcome(plan.expected, actual, lines, plan.currency);
  return (
    <Card testID="plan-outcome" gap="$3">
      <Heading>{`What ${rig.rig.name} really did`}</Heading>
      {lines.length === 0 ? <Body>In use for less than a week: nothing to compare yet.</Body> : null}
      {lines.map((line) => {
        const words = shownLine(line, plan.currency, units);
        return (
          <View key={line.what} testID={`outcome-${line.what}`}>
            <Explained explanation={because[line.what]}>
              <View flexDirection="row" justifyContent="space-between" flexWrap="wrap" columnGap="$3">
                <Body>{LINE_NAMES[line.what]}</Body>
                <Strong
                  textDecorationLine="underline"
                  textDecorationStyle="dotted"
                >{`${words.actual}, ${STATE_WORDS[line.state]}`}</Strong>
              </View>
            </Explained>
            <Small>{`Planned ${words.planned}.`}</Small>
          </View>
        );
      })}
      <Small>{`From ${threeDigits(actual.weeks)} weeks of log and ${actual.charges.length} charges that reached their limit; refills and cost follow from both, at the plan’s prices.`}</Small>
      <TextButton href={`/history/${rig.rig.id}`}>Why it was so</TextButton>
    </Card>
  );
}

/** Turns the plan into rig, vessels and charges, all at once and all undone at once. */
function useBuilding(plan: Kept<"plans">) {
  const { records: vessels } = useRecords("vessels");
  const { records: rigs } = useRecords("rigs");
  const own = plan.option.vessel.own ? vessels.find(({ name }) => name === plan.option.vessel.name) : undefined;
  const trains = useTrains();
  const holder = own && rigs.find(({ id }) => id === trains.rigOf(own.id, clockNow()));
  const { id: _, version: _v, voided: _b, ...body } = plan;
  const build = async () => {
    const now = new Date(clockNow());
    const built = buildRig(plan, newId, now, own);
    const { id: rigId, ...rig } = built.rig;
    const { id: arrangementId, ...arrangement } = built.arrangement;
    const { undo } = await act(`${plan.name} built`, [
      ...built.vessels.map(({ id, ...vessel }) => kept("vessels", vessel, id)),
      kept("rigs", rig, rigId),
      kept("arrangements", arrangement, arrangementId),
      ...built.charges.map(({ id, ...charge }) => kept("charges", charge, id)),
      changed("plans", plan, { ...body, rigId, inUseSince: now.toISOString() }),
    ]);
    showToast({ words: `${plan.name} hangs on the rack.`, undo });
    router.navigate({ pathname: "/", params: { rig: rigId } });
  };
  const putToUse = async (rigId: string) => {
    const { undo } = await change("plans", plan, { ...body, rigId, inUseSince: clockNowIso() });
    showToast({ words: "From now on the plan is held against the log.", undo });
  };
  return { build, putToUse, holder, rigs };
}

function Building({ plan }: { readonly plan: Kept<"plans"> }) {
  const { build, putToUse, holder, rigs } = useBuilding(plan);
  const [others, setOthers] = useState(false);
  if (plan.rigId) return null;
  return (
    <View gap="$3">
      {holder ? (
        <HeavyButton onPress={() => void putToUse(holder.id)} testID="put-to-use">
          {`Put it to use in ${holder.name}`}
        </HeavyButton>
      ) : (
        <HeavyButton onPress={() => void build()} testID="build-rig">
          Build it: rig, vessels and charges
        </HeavyButton>
      )}
      <Caution>
        Filling a vessel is wet, heavy work: gloves and eye protection, and the resin’s safety data sheet has the last
        word. The refill steps stand in Setup.
      </Caution>
      {rigs.length > 0 ? (
        <TextButton onPress={() => setOthers(!others)} expanded={others}>
          {others ? "Close" : "Hold it against a rig that is there"}
        </TextButton>
      ) : null}
      {others
        ? rigs.map((rig) => (
            <PlainButton key={rig.id} onPress={() => void putToUse(rig.id)} testID="use-rig">
              {rig.name}
            </PlainButton>
          ))
        : null}
    </View>
  );
}

/** Earlier versions; only the server knows them. */
function Versions({ plan }: { readonly plan: Kept<"plans"> }) {
  const { data, isError } = useQuery({
    queryKey: ["versions", "plans", plan.id, plan.version],
    queryFn: ({ signal }) => fetchVersions("plans", plan.id, signal),
    enabled: plan.version > 1,
    retry: false,
  });
  if (plan.version === 1) return null;
  return (
    <View testID="plan-versions">
      <Heading>Versions</Heading>
      {isError ? (
        <Small>{isExample ? "An example keeps no earlier versions." : "Earlier versions come with a signal."}</Small>
      ) : null}
      {(data ?? []).map(({ version, body, acceptedAt }) => (
        <Body key={version}>
          {`${version}, ${dayOfMoment(acceptedAt)}: ${body ? `${body.name}, ${optionName(body.option)}, ${wholeMoney(body.expected.cost.total, body.currency)} a year${body.rigId ? ", in use" : ""}` : "taken back"}`}
        </Body>
      ))}
    </View>
  );
}

/** One kept plan: what it expects, what happened, and what can be made of it. */
export function PlanDetail({ plan, work }: DetailProps) {
  const { units } = work;
  const { records: taps } = useRecords("taps");
  const tap = taps.find(({ id }) => id === plan.tapId);
  const files = planFiles(plan, { tap, version: plan.version, units });
  const changeWork = () => {
    work.patch({ ...typedOfPlan(plan, units), changing: plan.id });
    router.navigate("/size/vessel");
  };
  const throwAway = async () => {
    const { undo } = await takeBack("plans", plan);
    showToast({ words: `${plan.name} is taken back; its history stays.`, undo });
    router.navigate("/size/plans");
  };
  return (
    <View gap="$5" testID="plan">
      <View gap="$1">
        <Name key={plan.id} plan={plan} />
        <Body>{optionName(plan.option)}</Body>
        <Body testID="plan-work">{`For a week of ${plan.work.demand.items.map((item) => itemInWords(item, units)).join(", ")}.`}</Body>
        <Small>{`${tap?.name ?? "A tap"}, kept ${dayOfMoment(plan.keptAt)}, version ${plan.version}${plan.inUseSince ? `, in use since ${dayOfMoment(plan.inUseSince)}` : ""}.`}</Small>
      </View>
      <Building plan={plan} />
      <Outcome plan={plan} units={units} />
      <Expected plan={plan} units={units} />
      <View gap="$2">
        <Heading>Take it along</Heading>
        <Row flexWrap="wrap">
          <PlainButton onPress={() => void files.pdf()} testID="plan-pdf">
            One page, PDF
          </PlainButton>
          <PlainButton onPress={() => void files.csv()} testID="plan-csv">
            CSV
          </PlainButton>
          <PlainButton onPress={() => void files.json()} testID="plan-json">
            JSON
          </PlainButton>
        </Row>
      </View>
      <Versions plan={plan} />
      <Row flexWrap="wrap" columnGap="$5">
        <TextButton onPress={changeWork} testID="change-plan">
          Change the work, keep the next version
        </TextButton>
        <TextButton onPress={() => void throwAway()} testID="put-away">
          Take it back
        </TextButton>
      </Row>
    </View>
  );
}
