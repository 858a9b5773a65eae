import { View } from "@tamagui/core";
import { USE, type Reach, type Use } from "@winter-bead/core";
import { BEFORE_ASSUMPTIONS, bucketFlow, explainDemand, judgeFlow, TOOL_FLOWS } from "@winter-bead/core/src/sizing";
import { Card, Caution, Choice, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import { percent, scaleUnit, shown, toInternal, toShown, typedNumber, unitOf } from "../../ui/format";
import { Body, Heading, Small } from "../../ui/words";
import { labelOf } from "@winter-bead/core/src/descriptor/field";
import { unitShown } from "../../forms/live";
import { optionsOf } from "../../forms/options";
import { SCALE_OPTIONS, scaleOf } from "../../forms/scales";
import { FromTheLog } from "./FromTheLog";
import { More } from "./More";
import type { Work } from "./useWork";
import { SEASONS, USE_PRESETS } from "./work-presets";
import { itemFields, startOfUse, typedItem, type TypedItem, type TypedWork } from "./work-as-typed";

const QUALITIES = [
  { value: "metered", label: "Metered" },
  { value: "timed", label: "Timed" },
  { value: "guessed", label: "Guessed" },
] as const;
const PRIORITIES = [
  { value: "money", label: "Money" },
  { value: "weight", label: "Weight" },
  { value: "refills", label: "Few refills" },
] as const;

interface PartProps {
  readonly work: Work;
}

/** One number field of the work, by its name. */
function WorkField({
  work,
  name,
  label,
  unit,
  hint,
}: PartProps & {
  readonly name:
    | "peakFlow"
    | "fillFlow"
    | "limit"
    | "lift"
    | "budget"
    | "supply"
    | "needed"
    | "bucket"
    | "bucketSeconds"
    | "recovery"
    | "rejection"
    | "ratedFlow"
    | "boosted"
    | "airHours"
    | "airFlow"
    | "barrel";
  readonly label: string;
  readonly unit: string;
  readonly hint?: string;
}) {
  const error = work.parsed?.errors[name];
  return (
    <NumberField
      label={label}
      unit={unit}
      value={work.typed[name]}
      onChange={(value) => work.patch({ [name]: value })}
      testID={`work-${name}`}
      {...(hint ? { hint } : {})}
      {...(error ? { error } : {})}
    />
  );
}

function Item({ work, item }: PartProps & { readonly item: TypedItem }) {
  const { typed, patch, units, parsed } = work;
  const change = (part: Partial<TypedItem>) =>
    patch({ items: typed.items.map((each) => (each.key === item.key ? { ...each, ...part } : each)) });
  const remove = () => patch({ items: typed.items.filter((each) => each.key !== item.key) });
  return (
    <Card testID="work-item" gap="$3">
      <TextField label="What" value={item.name} onChange={(name) => change({ name })} />
      <FieldRow>
        {itemFields(item.by).map(([name, field]) => {
          const error = parsed?.errors[`items.${item.key}.${name}`];
          return (
            <NumberField
              key={name}
              label={labelOf(field)}
              unit={unitShown(field, units)}
              value={item.figures[name] ?? ""}
              onChange={(value) => change({ figures: { ...item.figures, [name]: value } })}
              testID={`item-${name}`}
              {...(error ? { error } : {})}
            />
          );
        })}
      </FieldRow>
      <Choice
        label="How well its water is known"
        value={item.quality}
        options={QUALITIES}
        onChange={(quality) => change({ quality })}
      />
      <TextButton onPress={remove} label={`Leave out ${item.name}`}>
        Remove this work
      </TextButton>
    </Card>
  );
}

let added = 0;

function Items({ work }: PartProps) {
  const { typed, patch, units, parsed } = work;
  const add = (i: number) => {
    added += 1;
    const preset = USE_PRESETS[typed.use].work[i]!;
    patch({ items: [...typed.items, typedItem(preset, `added-${Date.now()}-${added}`, units)] });
  };
  const offered = USE_PRESETS[typed.use].work.filter(({ name }) => typed.items.every((item) => item.name !== name));
  return (
    <View gap="$3">
      <Heading>The work of a usual week</Heading>
      {typed.items.map((item) => (
        <Item key={item.key} work={work} item={item} />
      ))}
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {offered.map((preset) => (
          <PlainButton key={preset.name} onPress={() => add(USE_PRESETS[typed.use].work.indexOf(preset))}>
            {`Add ${preset.name}`}
          </PlainButton>
        ))}
        <FromTheLog work={work} />
      </View>
      {parsed?.input ? (
        <Explained explanation={explainDemand(parsed.input.demand.items)} label="How the week adds up" />
      ) : null}
    </View>
  );
}

const SEASON_OPTIONS = [
  { value: "even", label: "The same all year" },
  { value: "summer", label: "Busy summer" },
  { value: "spring-autumn", label: "Busy spring and autumn" },
  { value: "own", label: "Month by month" },
] as const;
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"] as const;

function Season({ work }: PartProps) {
  const { typed, patch, parsed } = work;
  const choose = (season: TypedWork["season"]) =>
    patch({
      season,
      ...(season === "own" && typed.season !== "own"
        ? { months: SEASONS[typed.season].map((share) => String(Math.round(100 * share))) }
        : {}),
    });
  return (
    <View gap="$2">
      <Choice label="Over the year" value={typed.season} options={SEASON_OPTIONS} onChange={choose} />
      {typed.season === "own" ? (
        <FieldRow>
          {MONTHS.map((month, i) => {
            const error = parsed?.errors[`months.${i}`];
            return (
              <NumberField
                key={month}
                label={month}
                unit="%"
                value={typed.months[i] ?? ""}
                onChange={(value) => patch({ months: typed.months.map((each, j) => (j === i ? value : each)) })}
                testID={`month-${i}`}
                {...(error ? { error } : {})}
              />
            );
          })}
        </FieldRow>
      ) : null}
    </View>
  );
}

const WAYS_TO_THE_TOOL = [
  { value: "straight", label: "Straight through the resin" },
  { value: "tank", label: "From a tank filled ahead" },
] as const;

const MEMBRANES = [
  { value: "one", label: "One" },
  { value: "two", label: "A second on its waste" },
] as const;

const REACH_OPTIONS = [
  { value: "among", label: "Among the bristles" },
  { value: "past", label: "A hand past them" },
  { value: "far-past", label: "Far past them" },
] as const satisfies readonly { value: Reach; label: string }[];

/** A timed bucket and a look at the jets, for those who never measured. */
function BucketTest({ work }: PartProps) {
  const { typed, patch, units } = work;
  const { tool } = USE_PRESETS[typed.use];
  const [litres, seconds] = [typedNumber(typed.bucket), typedNumber(typed.bucketSeconds)];
  const flow =
    litres !== undefined && seconds !== undefined
      ? bucketFlow({ litres: toInternal("volume", litres, units), seconds })
      : undefined;
  const peak = typedNumber(typed.peakFlow);
  const judged =
    peak !== undefined && peak > 0 ? judgeFlow(tool, toInternal("flow", peak, units), typed.reach) : undefined;
  const aim = judged && shown("flow", judged.aim, units);
  const { from, to } = TOOL_FLOWS[tool];
  const band = `${shown("flow", from, units).text} to ${shown("flow", to, units).text} ${unitOf("flow", units)}`;
  const words: Record<NonNullable<typeof judged>["state"], string> = {
    fits: `The flow suits it: ${band} is what it needs.`,
    "too-little": `Below the ${band} that it needs: it will clean slowly.`,
    "too-much": `More than it can use: at ${aim?.text} ${aim?.unit} the same time takes ${judged ? percent(judged.saves) : ""} % less water.`,
  };
  return (
    <View gap="$3">
      <FieldRow>
        <WorkField work={work} name="bucket" label="Bucket test: water" unit={unitOf("volume", units)} />
        <WorkField work={work} name="bucketSeconds" label="in" unit="s" />
      </FieldRow>
      {flow?.ok ? (
        <PlainButton
          testID="use-bucket"
          onPress={() => patch({ peakFlow: String(Number(toShown("flow", flow.value, units).toPrecision(3))) })}
        >{`Use ${shown("flow", flow.value, units).text} ${unitOf("flow", units)}`}</PlainButton>
      ) : null}
      {tool === "brush" ? (
        <Choice
          label="Where the jets land with the brush as it works"
          value={typed.reach}
          options={REACH_OPTIONS}
          onChange={(reach) => patch({ reach })}
        />
      ) : null}
      {judged ? <Body testID="flow-judged">{words[judged.state]}</Body> : null}
    </View>
  );
}

/** Flow, limit, and how the water comes to the tool. */
function FlowAndLimit({ work }: PartProps) {
  const { typed, patch, units } = work;
  const limitWords =
    typed.use === "aquarium"
      ? "Act at 1 or at 2: both schools stand below."
      : "Change at 10, at 20, or go to 30: all stand below.";
  return (
    <View gap="$3">
      <Heading>Flow and limit</Heading>
      <FieldRow>
        <WorkField work={work} name="peakFlow" label="Peak flow" unit={unitOf("flow", units)} />
        <WorkField
          work={work}
          name="limit"
          label="Limit"
          unit={scaleUnit(scaleOf(typed.limitScale))}
          hint={typed.limitScale === "nacl" ? limitWords : "On the scale of your meter."}
        />
      </FieldRow>
      <Choice
        label="The limit is on the scale"
        value={typed.limitScale}
        options={SCALE_OPTIONS}
        onChange={(limitScale) => patch({ limitScale })}
      />
      <More label="Never measured the flow?" testID="bucket-test">
        <BucketTest work={work} />
      </More>
      <Choice
        label="How the water comes to the tool"
        value={typed.comes}
        options={WAYS_TO_THE_TOOL}
        onChange={(comes) => patch({ comes })}
      />
      {typed.comes === "tank" ? (
        <>
          <FieldRow>
            <WorkField work={work} name="fillFlow" label="The tank is filled at" unit={unitOf("flow", units)} />
          </FieldRow>
          <Small>That is the flow through the resin; a membrane fills the tank as fast as it makes.</Small>
          <Caution>Unattended it wants a float shut-off, tested.</Caution>
        </>
      ) : null}
    </View>
  );
}

/** What is assumed of the membrane and the barrel. */
function StagesBefore({ work }: PartProps) {
  const { typed, patch, units } = work;
  const { rated } = BEFORE_ASSUMPTIONS;
  return (
    <More label="Membrane and barrel, as assumed" testID="setup-before">
      <Choice
        label="Membranes"
        value={typed.membranes}
        options={MEMBRANES}
        onChange={(membranes) => patch({ membranes })}
      />
      <FieldRow>
        <WorkField work={work} name="rejection" label="The membrane holds back" unit="%" />
        <WorkField
          work={work}
          name="ratedFlow"
          label="It makes, rated"
          unit={unitOf("flow", units)}
          hint={`At ${shown("pressure", rated.pressure, units).text} ${unitOf("pressure", units)} and ${shown("temperature", rated.temperature ?? 25, units).text} ${unitOf("temperature", units)}.`}
        />
        <WorkField work={work} name="recovery" label="Of the water becomes pure" unit="%" />
        <WorkField work={work} name="boosted" label="With a booster pump" unit={unitOf("pressure", units)} />
        <WorkField work={work} name="airHours" label="Air through the barrel" unit="h" />
        <WorkField work={work} name="airFlow" label="The pump’s air" unit={unitOf("flow", units)} />
        <WorkField work={work} name="barrel" label="The barrel" unit={unitOf("volume", units)} />
      </FieldRow>
      <Small>{`Without a booster on the tap’s own pressure: what you enter above, else ${shown("pressure", BEFORE_ASSUMPTIONS.tapPressure, units).text} ${unitOf("pressure", units)}.`}</Small>
    </More>
  );
}

/** What the water is for, which tap, what work and what bounds: the question, below the answer. */
export function WorkInputs({ work }: PartProps) {
  const { typed, patch, units, waters, water } = work;
  return (
    <View gap="$5">
      <Choice
        label="The water is for"
        value={typed.use}
        options={optionsOf(USE)}
        onChange={(use: Use) => patch(startOfUse(use, units))}
      />
      <Choice
        label="Water from"
        value={water?.tap.id}
        options={waters.map(({ tap }) => ({ value: tap.id, label: tap.name }))}
        onChange={(tapId) => patch({ tapId })}
      />
      <Choice
        label="What matters most"
        value={typed.priority}
        options={PRIORITIES}
        onChange={(priority) => patch({ priority })}
      />
      <Items work={work} />
      <Season work={work} />
      <FlowAndLimit work={work} />
      <More label="Lifting, budget, pressure" testID="bounds">
        <FieldRow>
          <WorkField work={work} name="lift" label="One person lifts" unit={unitOf("weight", units)} />
          <WorkField work={work} name="budget" label="Budget a year, if any" unit={work.prices.currency} />
          <WorkField
            work={work}
            name="supply"
            label="Tap, running"
            unit={unitOf("pressure", units)}
            hint="Leave empty if nobody measured."
          />
          <WorkField work={work} name="needed" label="The tool needs" unit={unitOf("pressure", units)} />
        </FieldRow>
        <Small>Local rules on lifting have the last word.</Small>
      </More>
      <StagesBefore work={work} />
      <Small>
        {work.prices.assumed
          ? `Prices are ${work.prices.from}: set your own under Prices.`
          : `Prices: ${work.prices.from}.`}
      </Small>
    </View>
  );
}
