import { View } from "@tamagui/core";
import {
  describeWater,
  explainConstantLife,
  explainLife,
  explainTimes,
  onScale,
  type Explanation,
  type Result,
  type School,
} from "@winter-bead/core";
import {
  behind,
  explainChangedAt,
  explainOption,
  filledAtOnce,
  LIMIT_SCHOOLS,
  optionFigures,
  optionLifeInput,
  planQuestion,
  resinIn,
} from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import { useNewestAnswer } from "../../data/newest-answer";
import { Explained } from "../../ui/Explained";
import { litres, litresRange, threeDigits, type Units } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { useOwnHistory } from "./useOwnHistory";
import { days, wholeMoney } from "./money";
import { SCHOOL_NAMES } from "./school-names";
import type { SchoolsAnswer, SchoolsAsked } from "./plan.worker";
import { planner } from "./useLives";
import type { CrewPrices } from "./usePrices";

/** The trade constant that stands for its school here, gal·ppm/ft³ on the sodium-chloride scale. */
const USUAL_CONSTANT = 200_000;

const ask = (asked: SchoolsAsked): Promise<Result<SchoolsAnswer>> => planner.run((worker) => worker.askSchools(asked));

const Line = ({
  name,
  value,
  beside,
  because,
}: {
  readonly name: string;
  readonly value: string;
  readonly beside: string;
  readonly because: Explanation | undefined;
}) => (
  <Explained explanation={because}>
    <View flexDirection="row" justifyContent="space-between" flexWrap="wrap" columnGap="$3" minHeight={30}>
      <Body>{name}</Body>
      <Body>
        <Strong textDecorationLine={because ? "underline" : "none"} textDecorationStyle="dotted">
          {value}
        </Strong>
        {`  ${beside}`}
      </Body>
    </View>
  </Explained>
);

type SchoolWorkings = Partial<Record<School, Explanation>>;

/** The workings of both kinds of schools, in the same litres and money. */
function workingsOf({ option, work, use, history }: SchoolsAsked, prices: CrewPrices) {
  const question = planQuestion(work);
  if (!question.ok) return undefined;
  const ways = behind(option.before, work.waters.typical, work.peakFlow, question.value.setup);
  const water = ways.ok ? describeWater(ways.value.water) : undefined;
  const resin = resinIn(option.vessel) * filledAtOnce(option);
  const explainedAt = (limit: number) => {
    const at = { ...question.value, limit: { value: limit, scale: "nacl" as const } };
    const figures = optionFigures(option, at);
    const explained = figures.ok ? explainOption(figures.value, at, prices) : undefined;
    return explained?.ok ? explained.value : undefined;
  };
  const ofVessel = (explained: Result<Explanation>): Explanation | undefined =>
    explained.ok ? explainTimes(explained.value, filledAtOnce(option)) : undefined;
  const asked = ways.ok ? optionLifeInput(option, ways.value, question.value) : undefined;
  const arithmetic: SchoolWorkings = {};
  if (water?.ok) arithmetic.constant = explainConstantLife(USUAL_CONSTANT, water.value.ppm.nacl, resin);
  const chemistry = asked && ofVessel(explainLife(asked));
  if (chemistry) arithmetic.chemistry = chemistry;
  const own =
    asked && history && water?.ok
      ? ofVessel(
          explainLife({
            ...asked,
            water: { reading: { value: water.value.ec25, scale: "ec" } },
            capacity: { cation: history.median, anion: history.median },
          }),
        )
      : undefined;
  if (own) arithmetic.history = own;
  const limits = new Map(LIMIT_SCHOOLS[use].map(({ limit }) => [limit, explainedAt(limit)?.cost]));
  return { arithmetic, limits };
}

const changedAt = (whole: Explanation | undefined, besides: number, share: number | undefined) =>
  whole && share !== undefined ? explainChangedAt(whole, besides, share) : whole;

/** Both disputes of the trade for the first option: how to count litres, and when to change. */
export function SchoolsCard({
  option,
  work,
  use,
  prices,
  units,
}: Pick<SchoolsAsked, "option" | "work" | "use"> & { readonly prices: CrewPrices; readonly units: Units }) {
  const { currency } = prices;
  const history = useOwnHistory(option.grade);
  const asked = useMemo<SchoolsAsked>(
    () => ({ option, work, use, constant: USUAL_CONSTANT, ...(history ? { history } : {}) }),
    [option, work, use, history],
  );
  const { answer, answered } = useNewestAnswer(asked, ask);
  const workings = useMemo(() => answered && workingsOf(answered, prices), [answered, prices]);
  if (!answer?.ok || !workings) return null;
  const feed = describeWater(work.waters.typical);
  return (
    <View gap="$4" testID="schools">
      <View>
        <Heading>Two schools of arithmetic, and yours</Heading>
        {answer.value.arithmetic.map(({ school, low, typical, high }) => (
          <Line
            key={school}
            name={SCHOOL_NAMES[school]}
            value={litres(typical, units)}
            beside={litresRange(low, high, units)}
            because={workings.arithmetic[school]}
          />
        ))}
        <Small>
          {`A refill of the first option, with a constant of ${USUAL_CONSTANT.toLocaleString("en-US")} gal·ppm/ft³ NaCl${feed.ok ? ` and a tap of ${threeDigits(onScale(feed.value.ec25, "nacl"))} ppm NaCl` : ""}.`}
        </Small>
      </View>
      <View testID="limit-schools">
        <Heading>When to change: the schools beside each other</Heading>
        {answer.value.limits.map(({ name, limit, share, besides, litres: each, days: between, cost, reachable }) => (
          <Line
            key={name}
            name={name}
            value={reachable ? wholeMoney(cost, currency) : "out of reach"}
            beside={reachable ? `a year, ${litres(each, units)}, every ${days(between)}` : ""}
            because={reachable ? changedAt(workings.limits.get(limit), besides, share) : undefined}
          />
        ))}
        {new Set(answer.value.limits.map(({ cost }) => Math.round(cost))).size === 1 ? (
          <Small>What reaches the resin is within all of these limits, so they change nothing here.</Small>
        ) : null}
      </View>
    </View>
  );
}
