import { WorkOfCharge } from "../refill/WorkOfCharge";
import { View } from "@tamagui/core";
import {
  chargeLedgers,
  explainHeadline,
  markWords,
  onScale,
  resinFeedPoint,
  unloggedOf,
  unloggedWords,
  type CapacityRange,
  type Charge,
  type ChargeLedger,
  type Id,
  type LedgerLine,
  type Meter,
  type ReadingPoint,
  type Standing,
  type Vessel,
  type Visit,
} from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import { useMemo, useState } from "react";
import type { LayoutChangeEvent } from "react-native";
import { takeBack, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { Choice, EmptyState, HeavyButton, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { dayMonth } from "../../ui/dates";
import { capital, litres, momentInWords, scaleUnit, threeDigits } from "../../ui/format";
import { SelectField } from "../../ui/pickers";
import { StateRing } from "../../ui/StateRing";
import { showToast } from "../../ui/toast";
import { Big, Body, Heading, Small, Strong, Title } from "../../ui/words";
import { inBooks } from "../rack/assess";
import type { RigView } from "../rack/useRigs";
import { LeakLine } from "../rack/LeakLine";
import { TrainDrawing } from "../rack/TrainDrawing";
import { vesselsBefore, vesselsHere, vesselView } from "../rack/train-views";
import { dateRange, datesInWords, isToBeLookedAt } from "../rack/RigColumn";
import { headlineShown, verdictWords } from "../rack/words";
import { chartScale, FrontChart } from "./FrontChart";
import { VisitsAhead } from "./VisitsAhead";

const WHY_ENDED = { limit: "reached its limit", early: "changed early", fault: "fault" } as const;

function chargeName(charge: Charge): string {
  const from = dayMonth(Date.parse(charge.filledAt));
  return charge.ended ? `${from} to ${dayMonth(Date.parse(charge.ended.at))}` : `since ${from}`;
}

const byId = <T extends { readonly id: Id }>(records: readonly T[]) =>
  new Map(records.map((record) => [record.id, record]));

/** What was read behind this vessel at a visit. */
const outputWords = ({ outputs }: ChargeLedger, { id }: Visit) => {
  const read = outputs.filter(({ visitId }) => visitId === id).pop();
  return read ? `${threeDigits(read.value)} ${scaleUnit(read.scale)}` : "–";
};

const FED_BY = { tap: "", read: "read behind the one before", believed: "believed of the one before" } as const;

/** What a vessel behind another was fed. */
const fedWords = ({ feedEc25, fedBy }: LedgerLine, { marks }: Vessel) =>
  `in ${threeDigits(onScale(feedEc25, marks.scale))} ${scaleUnit(marks.scale)}, ${FED_BY[fedBy]}`;

function readingWords(visit: Visit, point: ReadingPoint, meters: ReadonlyMap<Id, Meter>): string {
  const reading = visit.readings.find((each) => each.point === point);
  if (!reading) return "–";
  const scale = reading.scale ?? (reading.meterId ? meters.get(reading.meterId)?.scale : undefined) ?? "nacl";
  return `${threeDigits(reading.value)} ${scaleUnit(scale)}`;
}

function VisitLine({
  line,
  visit,
  view,
  ledger,
}: {
  readonly ledger: ChargeLedger;
  readonly line: LedgerLine;
  readonly visit: Visit;
  readonly view: RigView;
}) {
  const { units } = useSettings();
  const { records } = useRecords("visits");
  const meters = byId(view.facts.meters);
  const record = records.find((each) => each.id === visit.id);
  // What is dated ahead by little counts as of now, and is shown as it was dated.
  const at = record ? Date.parse(record.at) : line.at;
  const isUnknown = useMemo(() => unloggedOf(ledger).some(({ visitId }) => visitId === visit.id), [ledger, visit.id]);
  // A total that waits to be borne out is not a visit without water.
  const isLeftOut = line.trouble !== undefined && line.litres === 0;
  const remove = async () => {
    if (!record) return;
    const { undo } = await takeBack("visits", record);
    showToast({ words: "Taken back; its history stays.", undo });
  };
  return (
    <View
      role="listitem"
      testID="visit-line"
      flexDirection="row"
      flexWrap="wrap"
      alignItems="center"
      columnGap="$4"
      rowGap={2}
      borderTopColor="$line"
      borderTopWidth={1}
      paddingVertical="$2"
    >
      <Strong minWidth={110}>{momentInWords(at, view.facts.now)}</Strong>
      <Body minWidth={110}>out {outputWords(ledger, visit)}</Body>
      <Body minWidth={120}>
        {line.place > 0
          ? fedWords(line, view.facts.vessel)
          : `${resinFeedPoint(view.facts.rig) === "feed" ? "feed" : "after RO"} ${readingWords(visit, resinFeedPoint(view.facts.rig), meters)}`}
      </Body>
      {isUnknown || isLeftOut ? (
        <Body>{isLeftOut ? "water not counted" : "water unknown"}</Body>
      ) : (
        <>
          <Body>{litres(line.litres, units)}</Body>
          <Small>{line.quality}</Small>
        </>
      )}
      {visit.note ? <Small flexBasis="100%">{visit.note}</Small> : null}
      {at > view.facts.now ? <Small flexBasis="100%">Dated ahead: it counts as of now.</Small> : null}
      {line.trouble ? (
        <Small color="$rowan" flexBasis="100%">
          {line.trouble}
        </Small>
      ) : null}
      <View marginLeft="auto" flexDirection="row" columnGap="$4">
        <TextButton
          href={`/history/visit?id=${visit.id}`}
          label={`Correct the visit of ${momentInWords(at, view.facts.now)}`}
        >
          Correct
        </TextButton>
        <TextButton onPress={() => void remove()} label={`Take back the visit of ${momentInWords(at, view.facts.now)}`}>
          Take back
        </TextButton>
      </View>
    </View>
  );
}

function Figure({ name, value, small }: { readonly name: string; readonly value: string; readonly small: string }) {
  return (
    <View minWidth={130} maxWidth="100%" gap={2}>
      <Small>{name}</Small>
      <View flexDirection="row" alignItems="baseline" gap="$1" flexWrap="wrap">
        <Big fontSize="$5" lineHeight="$5">
          {value}
        </Big>
        <Strong flexShrink={1}>{small}</Strong>
      </View>
    </View>
  );
}

/** What the date beside it is of. */
function dateName(where: Standing | undefined, view: RigView): string {
  if (!where) return "Limit falls";
  if (isToBeLookedAt(view)) return `If it was wrong, ${markWords(where, view.facts.rig)} falls`;
  return where.leftTo === "none" ? "To be changed" : `${capital(markWords(where, view.facts.rig))} falls`;
}

const rangeWords = (low: string, high: string) => (low === high ? "eq/L" : `eq/L, ${low}–${high}`);

function Figures({ view, ledger }: { readonly view: RigView; readonly ledger: ChargeLedger }) {
  const { units } = useSettings();
  const where = view.assessment?.standing;
  const isCurrent = ledger.charge.ended === undefined;
  const treated = ledger.lines.reduce((sum, line) => sum + line.litres, 0);
  const headline = isCurrent && where ? headlineShown(where, view.facts, units) : undefined;
  const load = ledger.lines.reduce((sum, line) => sum + (line.litres * line.feedEc25) / 100, 0);
  const reached = load / 1000 / ledger.charge.resinLitres;
  return (
    <View flexDirection="row" flexWrap="wrap" gap="$5">
      {headline && !headline.isWord ? (
        <Figure
          name={`Left to the ${markWords(where!, view.facts.rig)}`}
          value={headline.big}
          small={[headline.unit, headline.work].filter(Boolean).join(", ")}
        />
      ) : null}
      <Figure
        name="Treated so far"
        value={litres(treated, units).split(" ")[0]!}
        small={litres(treated, units).split(" ").slice(1).join(" ")}
      />
      {isCurrent && where ? (
        <Figure
          name="Your own capacity"
          value={where.capacity.median.toFixed(2)}
          small={rangeWords(where.capacity.low.toFixed(2), where.capacity.high.toFixed(2))}
        />
      ) : (
        <Figure name="Capacity reached" value={reached.toFixed(2)} small="eq/L of resin" />
      )}
      {isCurrent ? (
        <Figure
          name={dateName(where, view)}
          value={datesInWords(view) || "–"}
          small={!view.assessment ? "Working it out…" : dateRange(view) === datesInWords(view) ? "" : dateRange(view)}
        />
      ) : (
        <Figure name="Ended" value={ledger.charge.ended ? WHY_ENDED[ledger.charge.ended.why] : "–"} small="" />
      )}
    </View>
  );
}

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"] as const;

/** In words: what the count says alone, what the readings changed, and what the date rests on. */
function WhyBelief({ where }: { readonly where: Standing }) {
  const { units } = useSettings();
  const [open, setOpen] = useState(false);
  const range = ({ low, median, high }: CapacityRange) =>
    `${median.toFixed(2)} eq/L (${low.toFixed(2)} to ${high.toFixed(2)})`;
  const { use, sinceLog, taught } = where;
  const worked = use.weekdays.map((mean, i) => ({ name: WEEKDAYS[i]!, mean }));
  const logged =
    use.weeksLogged === 0 ? "before anything is logged" : `over ${Math.ceil(use.weeksLogged)} weeks of log`;
  return (
    <View gap="$1">
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="why-belief">
        {open ? "Close" : "Why this capacity and this date"}
      </TextButton>
      {open ? (
        <View gap="$2" borderLeftColor="$line" borderLeftWidth={3} paddingLeft="$3" testID="belief">
          <Body>{`Your resin, after ${taught} ended ${taught === 1 ? "charge" : "charges"} of the crew, holds ${range(where.ownCapacity)}; its grade says ${where.gradeCapacity.toFixed(2)}. A charge differs from its owner’s others, so by the count alone this one holds ${range(where.capacityByCount)}.`}</Body>
          <Body>{`With this charge's ${where.groups.length} output readings: ${range(where.capacity)}. One odd reading counts little, two that rise count much; readings within one bed volume count as one.`}</Body>
          <Body>
            {[
              where.used.litres > 0
                ? `The water is ${where.used.quality}, so the load is known to about ${Math.round(100 * where.used.sd)} %.`
                : "No water is logged yet.",
              unloggedWords(where),
            ].join(" ")}
          </Body>
          <Body>
            {`Usual water, ${logged}: ${worked.map((day) => `${day.name} ${litres(day.mean, units)}`).join(", ")}. The dates are the 10, 50 and 90 % points of 4,000 simulated futures from ${sinceLog.days === 0 ? "tomorrow" : "today"} on.`}
          </Body>
          <Small>
            School: resin chemistry, corrected by your own history. Source: Hall et al. 1966; Kalbfleisch and Prentice
            2002; Metropolis and Ulam 1949.
          </Small>
        </View>
      ) : null}
    </View>
  );
}

function Visits({ ledger, view }: { readonly ledger: ChargeLedger; readonly view: RigView }) {
  const { units } = useSettings();
  return (
    <View>
      <Heading>Visits</Heading>
      {ledger.lines.length === 0 ? (
        <Body color="$soft">None yet in this charge.</Body>
      ) : (
        <View role="list" aria-label={`Visits of ${view.facts.rig.name}`}>
          {[...ledger.lines]
            .reverse()
            .map((line) =>
              line.visit ? (
                <VisitLine key={line.visit.id} line={line} visit={line.visit} view={view} ledger={ledger} />
              ) : (
                <Small key={line.at}>{`${litres(line.litres, units)} by the total at the filling after it`}</Small>
              ),
            )}
        </View>
      )}
    </View>
  );
}

/** The rig's name with its verdict and the reason, where the charge in use is looked at. */
function DetailHead({
  view: { facts, assessment },
  where,
  heading,
  whole,
}: {
  readonly view: RigView;
  readonly whole: RigView | undefined;
  readonly where: Standing | undefined;
  readonly heading: "h1" | "h2";
}) {
  const { units } = useSettings();
  const words = where && verdictWords({ ...facts, lead: assessment?.lead, before: assessment?.before }, where, units);
  return (
    <View flexDirection="row" gap="$3" alignItems="flex-start">
      {where ? <StateRing state={where.verdict.state} /> : null}
      <View flex={1}>
        <Title render={heading} fontSize="$5" lineHeight="$5">
          {whole ? facts.vessel.name : facts.rig.name}
          {words ? `: ${words.title.charAt(0).toLowerCase()}${words.title.slice(1)}` : ""}
        </Title>
        {words ? <Body color="$soft">{[words.reason, ...words.more].join(" ")}</Body> : null}
      </View>
    </View>
  );
}

/** As many charges stand side by side; more go into the platform's list, so that each can be looked at. */
const SIDE_BY_SIDE = 6;

function WhichCharge({
  ledgers,
  ...choice
}: {
  readonly ledgers: readonly ChargeLedger[];
  readonly value: Id;
  readonly onChange: (id: Id) => void;
}) {
  const options = [...ledgers].reverse().map(({ charge }) => ({ value: charge.id, label: chargeName(charge) }));
  return options.length > SIDE_BY_SIDE ? (
    <SelectField label="Charge" options={options} testID="which-charge" {...choice} />
  ) : (
    <Choice label="Charge" options={options} {...choice} />
  );
}

/** What is to be known of a charge beside its figures. */
function ChargeNotes({ charge: { ended, leftOut, partUsed } }: { readonly charge: Charge }) {
  return (
    <>
      {ended?.note ? <Small>{ended.note}</Small> : null}
      {leftOut ? <Small>Left out of what is learnt.</Small> : null}
      {partUsed ? <Small>Taken over part-used: nothing is learnt from it.</Small> : null}
    </>
  );
}

interface DetailProps {
  readonly view: RigView;
  /** The verdict stands beside it already. */
  readonly beside?: boolean;
  /** The place's own heading, or one under it. */
  readonly heading?: "h1" | "h2";
}

/** Look back on a rig: of a train vessel by vessel, chosen in its drawing. */
export function HistoryDetail(props: DetailProps) {
  const { view } = props;
  const { vessel } = useLocalSearchParams<{ vessel?: string }>();
  const [asked, setAsked] = useState<Id>();
  const here = vesselsHere(view.facts);
  if (here.length < 2) return <VesselDetail {...props} />;
  const before = vesselsBefore(view.facts);
  const chosen = asked ?? [...here, ...before].find(({ id }) => id === vessel)?.id ?? view.facts.vessel.id;
  return (
    <View gap="$4">
      <TrainDrawing view={view} chosen={chosen} onChoose={setAsked} />
      {before.length > 0 ? (
        <Choice
          label="Stood here before"
          value={chosen}
          options={before.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setAsked}
        />
      ) : null}
      <VesselDetail key={chosen} {...props} view={vesselView(view, chosen)} whole={view} />
    </View>
  );
}

/** Of a vessel without a charge, or a rig without a vessel: what comes first. */
function NothingYet({ view: { facts }, refill }: { readonly view: RigView; readonly refill: string }) {
  return vesselsHere(facts).length === 0 ? (
    <EmptyState
      title="No vessel stands in this rig"
      action={<HeavyButton href={`/setup/train?rig=${facts.rig.id}`}>Hang a vessel in</HeavyButton>}
    >
      Hang one in, then say what resin is in it.
    </EmptyState>
  ) : (
    <EmptyState
      title="No charge in this vessel yet"
      action={
        <HeavyButton href={refill} testID="fill-it">
          Fill it
        </HeavyButton>
      }
    >
      Say what resin went in and when; then every visit counts against it.
    </EmptyState>
  );
}

/** Readings of one vessel against litres, charge by charge, with what the front is expected to do. */
function VesselDetail({
  view,
  heading = "h2",
  beside = false,
  whole,
}: DetailProps & {
  /** The train that the vessel is one of. */
  readonly whole?: RigView;
}) {
  const { facts, assessment } = view;
  const [chosen, setChosen] = useState<Id>();
  const [width, setWidth] = useState(0);
  const owners = assessment?.owners;
  const ledgers = useMemo(() => {
    const all = chargeLedgers({ ...inBooks(facts), ...(owners ? { owners } : {}) });
    return whole ? all.filter(({ charge }) => charge.vesselId === facts.vessel.id) : all;
  }, [facts, owners, whole]);
  const ledger = ledgers.find((each) => each.charge.id === chosen) ?? ledgers[ledgers.length - 1];
  const refill = `/refill?rig=${facts.rig.id}${whole ? `&vessel=${facts.vessel.id}` : ""}`;
  if (!ledger) {
    return (
      <View gap="$4">
        <Title render={heading}>{whole ? facts.vessel.name : facts.rig.name}</Title>
        <NothingYet view={view} refill={refill} />
        <VisitsAhead view={view} />
      </View>
    );
  }
  const where = assessment?.standing?.charge.id === ledger.charge.id ? assessment.standing : undefined;
  // An answer kept from before stands without its working: what it rested on is not kept with it.
  const worked = view.asOf === undefined ? where : undefined;
  const lastOutput = ledger.outputs[ledger.outputs.length - 1];
  const scale = chartScale(ledger.outputs, facts.vessel.marks);
  const chartLabel = `Output of ${facts.rig.name} against litres: ${ledger.outputs.length} readings, last ${lastOutput ? threeDigits(onScale(lastOutput.ec25, scale)) : "none"} ${scaleUnit(scale)}`;
  return (
    <View gap="$4" testID="history">
      {beside ? (
        <Title
          render={heading}
          fontSize="$5"
          lineHeight="$5"
        >{`History of ${whole ? facts.vessel.name : facts.rig.name}`}</Title>
      ) : (
        <DetailHead view={view} where={where} heading={heading} whole={whole} />
      )}
      <View onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)}>
        {width > 0 ? (
          <FrontChart
            outputs={ledger.outputs}
            marks={facts.vessel.marks}
            standing={where}
            front={where ? assessment?.front : undefined}
            width={width}
            label={chartLabel}
          />
        ) : null}
        {where ? (
          <Small>
            Line: the likely output. Band: early to late, as the count and your readings have it.
            {where.rise ? " Dashes: your readings’ own trend." : ""}
          </Small>
        ) : null}
      </View>
      <Figures view={view} ledger={ledger} />
      <View>
        {worked ? <Explained explanation={explainHeadline(worked, facts)} label="Why this many litres" /> : null}
        {where ? <LeakLine facts={facts} standing={where} /> : null}
        {worked ? <WhyBelief where={worked} /> : null}
      </View>
      <WhichCharge ledgers={ledgers} value={ledger.charge.id} onChange={setChosen} />
      <ChargeNotes charge={ledger.charge} />
      <TextButton href={`/history/charge?id=${ledger.charge.id}`} testID="correct-charge">
        Look at or correct this charge
      </TextButton>
      <WorkOfCharge charge={ledger.charge} />
      <VisitsAhead view={view} />
      <Visits ledger={ledger} view={view} />
      <TextButton href={`/history/visit?rig=${facts.rig.id}`} testID="add-visit">
        Add a visit from paper notes
      </TextButton>
      <PlainButton href={refill} testID="new-charge">
        Start the refill
      </PlainButton>
    </View>
  );
}
