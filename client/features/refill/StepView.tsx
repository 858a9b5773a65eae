import { View } from "@tamagui/core";
import {
  earlyWaste,
  refillAmounts,
  TROUBLES,
  type Amount,
  type AmountName,
  type GuideStep,
  type TroubleName,
} from "@winter-bead/core/src/refill";
import { refillFrom } from "@winter-bead/core/src/stock/stock";
import { useState } from "react";
import { useWindowDimensions } from "react-native";
import { useSettings } from "../../data/settings";
import type { RecordForm as Form } from "../../forms/useRecordForm";
import { PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { Measured } from "../../ui/Measured";
import { litresRange, shown, type Units } from "../../ui/format";
import { useWide } from "../../ui/width";
import { useLargeText } from "../../ui/text-scale";
import { Big, Body, Small, Strong } from "../../ui/words";
import { useLastStanding } from "../rack/useLastStanding";
import { money } from "../size/money";
import { usePrices } from "../size/usePrices";
import { StepAsks } from "./StepAsks";
import { Cautions } from "./StepCautions";
import type { Guide } from "./useGuide";
import { VesselDrawing } from "./VesselDrawing";
import { WaysHere } from "./WaysHere";
import { amountWords, sceneWords } from "./words";

/** Figures of this guide's vessel. */
export function amountsOf(
  { guided, vessel, setting, charge }: Pick<Guide, "guided" | "vessel" | "setting" | "charge">,
  toFill?: number,
) {
  const inIt = charge?.resinLitres;
  return refillAmounts({
    vessel,
    ways: setting.ways,
    ...(inIt === undefined ? {} : { inIt }),
    ...(guided === "top-up" && toFill !== undefined ? { toFill } : {}),
  });
}

const worthWords = (share: number) => (share < 0.995 ? `, worth ${share.toFixed(2)} of fresh` : "");

/** From which bags the fill comes, and what stays in them. */
function BagWords({
  guide,
  litres,
  units,
}: {
  readonly guide: Pictured;
  readonly litres: number;
  readonly units: Units;
}) {
  const grade = guide.work?.found.grade ?? guide.charge?.grade ?? "virgin";
  const { portions, missing } = refillFrom(guide.stock, grade, litres);
  const words = (value: number) => {
    const { text, unit } = shown("resinVolume", value, units);
    return `${text} ${unit}`;
  };
  return (
    <>
      {portions.map(({ bagId, litres: taken }, i) => {
        const found = guide.stock.find(({ bag }) => bag.id === bagId)!;
        return (
          <Small key={bagId} testID="bag">
            {`${found.bag.name}${portions.length > 1 && i === 0 ? " first" : ""}${worthWords(found.worth.share.typical)}; ${found.left - taken < 0.05 ? "empty then" : `${words(found.left - taken)} stay in it`}`}
          </Small>
        );
      })}
      {missing > 0 && guide.stock.length > 0 ? <Small color="$rowan">{`${words(missing)} are in no bag`}</Small> : null}
    </>
  );
}

const WEIGHTS: readonly AmountName[] = ["wet-weight", "drained-weight", "spent-weight"];

function AmountLine({
  name,
  amount,
  guide,
  units,
}: {
  readonly name: AmountName;
  readonly amount: Amount;
  readonly guide: Pictured;
  readonly units: Units;
}) {
  const { big, small } = amountWords(name, amount, units);
  const unknown = WEIGHTS.includes(name) && name !== "spent-weight" && guide.vessel.emptyWeight === undefined;
  return (
    <View>
      {big ? <Big testID={`amount-${name}`}>{big}</Big> : null}
      <Small testID={big ? undefined : `amount-${name}`}>
        {unknown ? `${small}, without the vessel itself` : small}
      </Small>
    </View>
  );
}

/** What to take, beside the drawing. */
function Amounts({
  guide,
  step,
  litres,
}: {
  readonly guide: Pictured;
  readonly step: GuideStep;
  readonly litres: number | undefined;
}) {
  const { units } = useSettings();
  const amounts = amountsOf(guide, litres);
  const names = step.amounts.filter((name) => name !== "depth-of-fill" && name !== "bags");
  const beads = litres ?? amounts.litres?.value ?? 0;
  return (
    <View gap="$2" testID="amounts">
      {names.map((name) => {
        const amount = amounts[name];
        return amount ? <AmountLine key={name} name={name} amount={amount} guide={guide} units={units} /> : null;
      })}
      {step.amounts.includes("bags") ? <BagWords guide={guide} litres={beads} units={units} /> : null}
    </View>
  );
}

/** The working of each figure of a step. */
function Workings({
  guide,
  step,
  litres,
}: {
  readonly guide: Pictured;
  readonly step: GuideStep;
  readonly litres: number | undefined;
}) {
  const amounts = amountsOf(guide, litres);
  const [open, setOpen] = useState(false);
  const known = step.amounts.flatMap((name) => amounts[name] ?? []);
  if (known.length === 0) return null;
  if (!open)
    return (
      <TextButton onPress={() => setOpen(true)} expanded={false}>
        Why these numbers
      </TextButton>
    );
  return (
    <View>
      {known.map(({ explanation }) => (
        <Explained key={explanation.name} explanation={explanation} label={explanation.name} />
      ))}
    </View>
  );
}

/** What may go wrong, as it is seen; pressed, it says what helps. */
function Troubles({ step, onSeen }: { readonly step: GuideStep; readonly onSeen: (name: TroubleName) => void }) {
  const [seen, setSeen] = useState<TroubleName>();
  if (step.troubles.length === 0) return null;
  return (
    <View gap="$2" role="group" aria-label="What may go wrong">
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {step.troubles.map((name) => (
          <PlainButton
            key={name}
            testID={`trouble-${name}`}
            onPress={() => {
              setSeen(seen === name ? undefined : name);
              if (seen !== name) onSeen(name);
            }}
          >
            {TROUBLES[name].seen}
          </PlainButton>
        ))}
      </View>
      {seen ? (
        <View role="alert" gap="$1" borderLeftColor="$ink" borderLeftWidth={4} paddingLeft="$3" testID="help">
          <Strong>{TROUBLES[seen].seen}</Strong>
          {TROUBLES[seen].help.map((words, i) => (
            <Body key={words}>{`${i + 1}. ${words}`}</Body>
          ))}
        </View>
      ) : null}
    </View>
  );
}

/** What is thrown away by changing it early, said before anything is opened. */
function EarlyWaste({ guide }: { readonly guide: Guide }) {
  const { units } = useSettings();
  const { prices, currency } = usePrices();
  const standing = useLastStanding(guide.facts);
  if (!standing?.left || !guide.charge) return null;
  const { low, high, typical } = standing.left;
  const waste = earlyWaste({
    ...{ left: typical, treated: standing.used.litres, resin: guide.charge.resinLitres, currency },
    price: prices.resin[guide.charge.grade],
  });
  return (
    <View testID="early-waste">
      <Strong>{`It could still give ${litresRange(low, high, units)}.`}</Strong>
      <Explained explanation={waste} label="Why this number">
        <Body>{`About ${money(waste.value, currency)} of resin is thrown away.`}</Body>
      </Explained>
    </View>
  );
}

/** What stands around the drawing on a phone, px: header, title, how, buttons, tabs. */
const AROUND = 480;
const LOWEST = 176;
const HIGHEST = 350;
/** Room that what is typed at a step takes from it. */
const FOR_ASKS = 60;

/** The drawing's height: it gives way first where there is little room. */
function useDrawingHeight(asks: boolean): number {
  const { height } = useWindowDimensions();
  const wide = useWide();
  const around = (wide ? 460 : AROUND) + (asks ? FOR_ASKS : 0);
  return Math.round(Math.min(HIGHEST, Math.max(asks ? LOWEST - 40 : LOWEST, height - around)));
}

const BESIDE = 112;

/** Lines above the drawing; more stand below what is to be minded. */
const ABOVE_DRAWING = 2;

export type Pictured = Pick<Guide, "guided" | "vessel" | "setting" | "charge" | "work" | "stock">;

/** What is done, the vessel as it should look, what to take, what to mind. */
export function StepPicture({
  guide,
  step,
  litres,
}: {
  readonly guide: Pictured;
  readonly step: GuideStep;
  readonly litres: number | undefined;
}) {
  const { units } = useSettings();
  const largeText = useLargeText();
  const height = useDrawingHeight(step.asks.length > 0);
  const depth = amountsOf(guide, litres)["depth-of-fill"];
  const beside = step.amounts.some((name) => name !== "depth-of-fill");
  const lines = (from: number, to?: number) =>
    step.how.slice(from, to).map((words) => <Body key={words}>{words}</Body>);
  return (
    <View gap="$3">
      <View gap={2}>{lines(0, ABOVE_DRAWING)}</View>
      <View flexDirection={largeText ? "column" : "row"} alignItems={largeText ? "stretch" : "center"}>
        {beside ? (
          <View {...(largeText ? {} : { width: BESIDE })}>
            <Amounts guide={guide} step={step} litres={litres} />
          </View>
        ) : null}
        <View {...(largeText ? {} : { flex: 1, minWidth: 0 })}>
          <Measured>
            {(width) => (
              <VesselDrawing
                scene={step.scene}
                kind={guide.vessel.kind}
                size={guide.vessel}
                fillTo={guide.setting.ways.fillTo}
                mount={guide.setting.ways.mount}
                width={width}
                height={height}
                label={sceneWords(step.scene)}
                markWords={depth ? amountWords("depth-of-fill", depth, units).small : undefined}
              />
            )}
          </Measured>
        </View>
      </View>
      <Cautions key={`cautions ${step.id}`} step={step} />
      {step.how.length > ABOVE_DRAWING ? <View gap={2}>{lines(ABOVE_DRAWING)}</View> : null}
    </View>
  );
}

/** One step: its picture, what is typed there, what may go wrong, how this crew does it. */
export function StepView({
  guide,
  step,
  form,
  onSeen,
}: {
  readonly guide: Guide;
  readonly step: GuideStep;
  readonly form: Form;
  readonly onSeen: (name: TroubleName) => void;
}) {
  const typed = (form.bodiesNow()["step"] as { found?: { resinLitres?: number } }).found?.resinLitres;
  const litres = Number.isFinite(typed) ? typed : guide.work?.found.resinLitres;
  return (
    <View gap="$3">
      {step.id === "ready" && guide.guided === "early" ? <EarlyWaste guide={guide} /> : null}
      <StepPicture guide={guide} step={step} litres={litres} />
      <StepAsks guide={guide} step={step} form={form} />
      {step.check ? <Strong testID="check">{step.check}</Strong> : null}
      <Troubles key={`troubles ${step.id}`} step={step} onSeen={onSeen} />
      <WaysHere key={`ways ${step.id}`} guide={guide} step={step} />
      <Workings key={`workings ${step.id}`} guide={guide} step={step} litres={litres} />
    </View>
  );
}
