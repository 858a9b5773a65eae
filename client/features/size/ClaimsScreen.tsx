import { View } from "@tamagui/core";
import {
  CHEMISTRY_CEILING,
  describeWater,
  onScale,
  TRADE_CONSTANT_BAND,
  type Claim,
  type ClaimAnswer,
  type ClaimYears,
  type Explanation,
  type Scale,
} from "@winter-bead/core";
import {
  bringClaims,
  explainClaim,
  explainClaimConstant,
  explainOnlyBelow,
  ownBuilds,
  planQuestion,
} from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import { useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { Card, Choice, HeavyButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import { litres, litresRange, scaleUnit, threeDigits, unitOf, type Units } from "../../ui/format";
import { useWide } from "../../ui/width";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { labelOf } from "@winter-bead/core/src/descriptor/field";
import { CLAIM } from "@winter-bead/core/src/plan/asked";
import { optionsOf } from "../../forms/options";
import { SCALE_OPTIONS } from "../../forms/scales";
import { useTapWaters } from "../water/useTapWaters";
import {
  CLAIM_FIELDS,
  emptyClaim,
  parseClaims,
  startClaims,
  type ClaimFigure,
  type TypedClaim,
  type TypedClaims,
} from "./claims-as-typed";
import { money, perThousand, thousandOf } from "./money";
import { NoTap, SizeScreen } from "./SizeScreen";
import { usePrices, usePricesPending, type CrewPrices } from "./usePrices";
import { useWork, type Work } from "./useWork";
import { watersOf } from "./work-as-typed";
import { resinByWeight } from "./work-words";

const BAND_WORDS = {
  below: "below those in use",
  within: "among those in use",
  above: "above those in use",
} as const;

interface AnswerProps {
  readonly claim: Claim;
  readonly answer: ClaimAnswer;
  readonly place: number;
  readonly ec25: number;
  readonly scale: Scale;
  readonly prices: CrewPrices;
  readonly units: Units;
  readonly over: ClaimYears | undefined;
}

const Line = ({ words, because }: { readonly words: string; readonly because: Explanation | undefined }) => (
  <Explained explanation={because}>
    <Body textDecorationLine={because ? "underline" : "none"} textDecorationStyle="dotted" minHeight={28}>
      {words}
    </Body>
  </Explained>
);

function AnswerCard({ claim, answer, place, ec25, scale, prices, units, over }: AnswerProps) {
  const because = explainClaim(claim, answer, ec25, prices, over);
  const { capacity, constant, band, per1000Litres, overYears, byChemistry, onlyBelow } = answer;
  const thousand = (each: number) =>
    `${money(each * thousandOf(units), prices.currency)} ${perThousand(units).toLowerCase().replace("us", "US").replace(" l", " L")}`;
  return (
    <Card testID="claim-answer" borderColor={answer.tooHigh ? "$rowan" : "$line"}>
      <Strong>{`${place}. ${answer.name}`}</Strong>
      {answer.litres ? (
        <Explained explanation={because.litres}>
          <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
            <Big textDecorationLine="underline" textDecorationStyle="dotted">
              {litres(answer.litres.typical, units)}
            </Big>
            <Body>{`at your tap (${litresRange(answer.litres.low, answer.litres.high, units)})`}</Body>
          </View>
        </Explained>
      ) : null}
      {answer.litresToLeak && answer.litres && answer.litresToLeak.typical < 0.98 * answer.litres.typical ? (
        <Line
          words={`Carbon dioxide and silica counted: ${litres(answer.litresToLeak.typical, units)}`}
          because={because.litresToLeak}
        />
      ) : null}
      {per1000Litres === undefined ? null : (
        <Line
          words={`${thousand(per1000Litres)}, the first ${claim.priceOf === "set" ? "set" : "filling"}`}
          because={because.per1000Litres}
        />
      )}
      {overYears === undefined || over === undefined ? null : (
        <Line
          words={`${thousand(overYears.per1000Litres)} over ${threeDigits(over.years)} years of your work, ${threeDigits(overYears.fillings)} fillings`}
          because={because.overYears}
        />
      )}
      {capacity === undefined || constant === undefined || band === undefined ? null : (
        <View>
          <Line words={`Takes ${capacity.toFixed(2)} eq per litre of resin for granted`} because={because.capacity} />
          <Line
            words={`as a trade constant ${Math.round(constant).toLocaleString("en-US")}: ${BAND_WORDS[band]}`}
            because={explainClaimConstant(capacity)}
          />
        </View>
      )}
      {answer.tooHigh ? (
        <Body role="note" color="$rowan">
          <Strong color="$rowan">Too high: </Strong>
          {`${CHEMISTRY_CEILING} eq/L is what the beads’ own chemistry holds; its price is weighed by that.`}
        </Body>
      ) : null}
      {byChemistry === undefined ? null : (
        <Line
          words={`Virgin resin of that volume: ${litres(byChemistry, units)} at your tap`}
          because={because.byChemistry}
        />
      )}
      {onlyBelow === undefined ? null : (
        <Line
          words={`True at most below ${threeDigits(onScale(onlyBelow, scale))} ${scaleUnit(scale)}; your tap has ${threeDigits(onScale(ec25, scale))}`}
          because={explainOnlyBelow(claim, scale)}
        />
      )}
      {answer.missing.map((words) => (
        <Small key={words}>{words}</Small>
      ))}
    </Card>
  );
}

interface ClaimFormProps {
  readonly claim: TypedClaim;
  readonly change: (part: Partial<TypedClaim>) => void;
  readonly remove: () => void;
  readonly errors: Readonly<Record<string, string>>;
  readonly currency: string;
}

function ClaimForm({ claim, change, remove, errors, currency }: ClaimFormProps) {
  const { units } = claim;
  const field = (name: ClaimFigure, unit: string, hint?: string) => {
    const error = errors[`${claim.key}.${name}`];
    return (
      <NumberField
        label={labelOf(CLAIM_FIELDS[name])}
        unit={unit}
        value={claim[name]}
        onChange={(value) => change({ [name]: value })}
        testID={`claim-${name}`}
        {...(hint ? { hint } : {})}
        {...(error ? { error } : {})}
      />
    );
  };
  return (
    <Card testID="claim" gap="$3">
      <TextField label="The statement" value={claim.name} onChange={(name) => change({ name })} />
      <FieldRow>
        {field("volume", unitOf("volume", units))}
        {field("ppm", claim.scale === "ec" ? "µS/cm" : "ppm", "Empty if it says none.")}
        {field("resin", unitOf(claim.resinBy === "weight" ? "weight" : "resinVolume", units))}
        {field("price", currency)}
      </FieldRow>
      <Choice
        label="The price is for"
        value={claim.priceOf ?? "refill"}
        options={optionsOf(CLAIM.fields.priceOf)}
        onChange={(priceOf) => change({ priceOf })}
      />
      {claim.priceOf === "set" ? (
        <FieldRow>{field("refillPrice", currency, "Empty: your own price of resin.")}</FieldRow>
      ) : null}
      <Choice
        label="The ppm of the claim is"
        value={units}
        options={[
          { value: "metric", label: "Litres" },
          { value: "us", label: "US gallons" },
        ]}
        onChange={(next) => change({ units: next })}
      />
      <Choice
        label="Its resin is sold by"
        value={claim.resinBy}
        options={[
          { value: "volume", label: "Volume" },
          { value: "weight", label: "Weight" },
        ]}
        onChange={(resinBy) => change({ resinBy })}
      />
      {claim.resinBy === "weight" ? <Small>{resinByWeight(units)}</Small> : null}
      <Choice
        label="On the scale (sodium chloride if it says none)"
        value={claim.scale}
        options={SCALE_OPTIONS}
        onChange={(scale) => change({ scale })}
      />
      <TextButton onPress={remove} label={`Leave out ${claim.name}`}>
        Remove this claim
      </TextButton>
    </Card>
  );
}

/** A statement stands in its own units, whatever the user's are. */
const asStated = (claims: TypedClaims) => claims;

/** The years of the work typed under Size, over which a set and its refills are held against each other. */
function yearsOf({ parsed }: Work, { prices }: CrewPrices): ClaimYears | undefined {
  const question = parsed?.input && planQuestion(parsed.input);
  if (!question?.ok) return undefined;
  const litresPerYear = question.value.demand.year.typical;
  return { years: prices.years, litresPerYear, resinPrice: prices.resin.virgin };
}

/** Makers' statements on one footing: at this tap, by money, as one capacity. */
export function ClaimsScreen() {
  const wide = useWide();
  const { units } = useSettings();
  const work = useWork();
  const prices = usePrices();
  const initial = useMemo(() => startClaims(units), [units]);
  const [typed, patch] = useUnitDraft<TypedClaims>("claims", initial, asStated);
  const { waters, pending: watersPending } = useTapWaters();
  const pricesPending = usePricesPending();
  const pending = watersPending || pricesPending;
  const water = pending ? undefined : (waters.find(({ tap }) => tap.id === typed.tapId) ?? waters[0]);
  if (!water)
    return (
      <SizeScreen title="Claims on one footing">
        <NoTap pending={pending}>A claim means something only at a tap: name yours first.</NoTap>
      </SizeScreen>
    );
  const parsed = parseClaims(typed);
  const three = watersOf(water.tap, water.values);
  const over = yearsOf(work, prices);
  const beside = parsed.claims.find(({ resinLitres }) => resinLitres !== undefined)?.resinLitres;
  const builds = beside === undefined ? undefined : ownBuilds(beside, three.typical, prices.prices);
  const claims = [...parsed.claims, ...(builds?.ok ? builds.value : [])];
  const answers = bringClaims({ claims, waters: three, over });
  const described = describeWater(three.typical);
  const ec25 = described.ok ? described.value.ec25 : 0;
  const { scale } = water.tap;
  const shownAnswers = (
    <View gap="$3" testID="claims-answers">
      {answers.ok
        ? answers.value.map((answer, i) => (
            <AnswerCard
              key={answer.index}
              claim={claims[answer.index]!}
              answer={answer}
              place={i + 1}
              {...{ ec25, scale, prices, units, over }}
            />
          ))
        : null}
      {answers.ok ? null : <Body role="alert">{answers.fault.message}</Body>}
      {parsed.claims.length === 0 ? <Body>Type what a maker promises; it is brought to your tap at once.</Body> : null}
      <Small>
        {over
          ? `Over ${threeDigits(over.years)} years of the work under Size, ${litres(over.litresPerYear, units)} a year.`
          : "Type your work under Size to compare sets and refills over the years."}
      </Small>
      <Small>{`Best buy at ${water.tap.name} first. Trade constants in use lie between ${TRADE_CONSTANT_BAND.low.toLocaleString("en-US")} and ${TRADE_CONSTANT_BAND.high.toLocaleString("en-US")} gal·ppm/ft³ NaCl.`}</Small>
    </View>
  );
  const add = () => patch({ claims: [...typed.claims, emptyClaim(`c${Date.now()}`, typed.claims.length + 1, units)] });
  const form = (
    <View gap="$4">
      <Choice
        label="At"
        value={water.tap.id}
        options={waters.map(({ tap }) => ({ value: tap.id, label: tap.name }))}
        onChange={(tapId) => patch({ tapId })}
      />
      <Heading>What they say</Heading>
      {typed.claims.map((claim) => (
        <ClaimForm
          key={claim.key}
          claim={claim}
          change={(part) =>
            patch({ claims: typed.claims.map((each) => (each.key === claim.key ? { ...each, ...part } : each)) })
          }
          remove={() => patch({ claims: typed.claims.filter((each) => each.key !== claim.key) })}
          errors={parsed.errors}
          currency={prices.currency}
        />
      ))}
      <HeavyButton onPress={add} testID="add-claim">
        Add a statement
      </HeavyButton>
    </View>
  );
  return (
    <SizeScreen title="Claims on one footing" detail={wide ? shownAnswers : undefined}>
      <View gap="$5">
        {wide ? null : shownAnswers}
        {form}
      </View>
    </SizeScreen>
  );
}
