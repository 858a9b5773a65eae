import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { GUIDED, type Guided, type Vessel } from "@winter-bead/core";
import { guideFor, isCartridgeWork, openStep, usualWays, type GuidedWork } from "@winter-bead/core/src/refill";
import { useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { Card, Going, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { dateInWords, localDate, momentInWords } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { firstToFill } from "../rack/train-views";
import { useRigFacts, useRigs } from "../rack/useRigs";
import type { RigFacts } from "../rack/assess";
import { GuideScreen } from "./GuideScreen";
import { useWhereabouts, whereWords } from "./PoolChoice";
import { useWorks } from "./useGuide";
import { guidedWords } from "./words";

const WHAT: Readonly<Record<Guided, string>> = {
  refill: "Emptied, rinsed, filled anew.",
  early: "Before its limit, for the calendar's sake: what it could still give stands there.",
  emergency: "Away from the workshop: what is different on a stranger's drive.",
  "top-up": "The bed has sunk: fresh beads into the gap above it.",
  swap: "A vessel that was filled in peace takes its place.",
  exchange: "A service company brings regenerated resin.",
  sediment: "Look, swap, seal, leak check.",
  carbon: "The same, and rinsed to drain.",
  membrane: "Swapped, flushed for an hour, its first figures noted.",
};

const isHere = (guided: Guided, { rig }: RigFacts, hasCharge: boolean) => {
  if (isCartridgeWork(guided)) return rig.stages.some(({ kind }) => kind === guided);
  return guided === "refill" || guided === "exchange" || hasCharge;
};

const address = (facts: RigFacts, guided: Guided, vessel?: Vessel) =>
  `/refill?rig=${facts.rig.id}&what=${guided}${vessel ? `&vessel=${vessel.id}` : ""}`;

/** Work that was begun and left, to be gone on with. */
export function OpenWork({
  work,
  facts,
  vessel,
}: {
  readonly work: GuidedWork;
  readonly facts: RigFacts;
  readonly vessel: Vessel;
}) {
  const steps = guideFor({
    ...{
      guided: work.guided,
      kind: vessel.kind,
      use: facts.rig.use,
      isEmpty: false,
      behindMembrane: false,
      isHeavy: false,
    },
    ways: work.ways ?? usualWays(vessel.kind, vessel.fillFraction),
  });
  const next = steps[openStep(steps, work)];
  return (
    <Card testID="open-work" borderColor="$ink" gap="$2">
      <Strong>{`${guidedWords(work.guided, facts.rig.name)} is under way`}</Strong>
      <Small>{`Last at ${momentInWords(Date.parse(work.lastAt), clockNow())}. Next: ${next?.short ?? "look it over"}.`}</Small>
      <HeavyButton href={address(facts, work.guided, vessel)} testID="go-on">
        Go on
      </HeavyButton>
    </Card>
  );
}

/** What is done to a rig: each kind of work with what it is. */
function Chooser({ facts, vessels }: { readonly facts: RigFacts; readonly vessels: readonly Vessel[] }) {
  const { works } = useWorks();
  const { records: charges } = useRecords("charges");
  const where = useWhereabouts();
  const today = localDate(facts.now);
  const open = works.filter(({ rigId, ended }) => rigId === facts.rig.id && ended === undefined);
  const vessel = vessels[0] ?? facts.vessel;
  const hasCharge = charges.some(({ vesselId, ended }) => vesselId === vessel.id && ended === undefined);
  const kinds = (Object.keys(GUIDED.of) as Guided[]).filter((guided) => isHere(guided, facts, hasCharge));
  return (
    <Screen title={`${facts.rig.name}: what is done?`}>
      <View gap="$4">
        {open.map((work) => (
          <OpenWork
            key={work.id}
            work={work}
            facts={facts}
            vessel={vessels.find(({ id }) => id === work.vesselId) ?? vessel}
          />
        ))}
        <View>
          {kinds.map((guided) => (
            <Pressable
              key={guided}
              href={address(facts, guided, vessel)}
              alignItems="stretch"
              borderBottomColor="$line"
              borderBottomWidth={1}
              paddingVertical="$2"
              testID={`guide-${guided}`}
            >
              <Going>{hasCharge || guided !== "refill" ? GUIDED.of[guided] : "Fill it"}</Going>
              <Small>{WHAT[guided]}</Small>
            </Pressable>
          ))}
        </View>
        {vessels.length > 1 ? (
          <View gap="$1">
            <Heading>Another vessel of it</Heading>
            {vessels.slice(1).map((each) => (
              <TextButton key={each.id} href={address(facts, "refill", each)}>{`Refill ${each.name}`}</TextButton>
            ))}
          </View>
        ) : null}
        <View gap="$1">
          <Heading>Without being led</Heading>
          <TextButton href={`/setup/train?rig=${facts.rig.id}`} testID="to-train">
            Rotate, swap, take out: who stands where
          </TextButton>
          <TextButton href={`/setup/charge?rig=${facts.rig.id}`} testID="only-note">
            Only note what was done
          </TextButton>
          <TextButton href={`/refill/practice?rig=${facts.rig.id}`} testID="to-practice">
            Practise it first, nothing is kept
          </TextButton>
        </View>
        <View gap="$1" testID="which-is-where">
          <Heading>Which vessel is where</Heading>
          {where.map(({ vessel: each, ...rest }) => (
            <Small key={each.id}>{`${each.name}: ${whereWords(rest, today)}`}</Small>
          ))}
        </View>
        <Small>{`Today is ${dateInWords(today, today)}; local rules and safety data sheets have the last word.`}</Small>
      </View>
    </Screen>
  );
}

const isGuided = (what: string | undefined): what is Guided => what !== undefined && what in GUIDED.of;

/** The refill of the rig in the address: chosen, or gone on with. */
export function RefillPlace() {
  const { rig, what, vessel } = useLocalSearchParams<{ rig?: string; what?: string; vessel?: string }>();
  const { facts: all, pending } = useRigFacts();
  const { rigs: views } = useRigs();
  const { records: charges } = useRecords("charges");
  const { records: vessels } = useRecords("vessels");
  const trains = useTrains();
  const facts = all.find((each) => each.rig.id === rig) ?? (rig === undefined ? all[0] : undefined);
  if (pending)
    return (
      <Screen title="Refill">
        <Body role="status">One moment…</Body>
      </Screen>
    );
  if (!facts) return <NotHere what="rig" href="/" way="To the rack" />;
  const own = trains.at(facts.rig.id, facts.now).flatMap(({ vesselId }) => vessels.filter(({ id }) => id === vesselId));
  const filled = new Set(charges.flatMap(({ vesselId, ended }) => (ended === undefined ? [vesselId] : [])));
  // Of a train the one that is spent is filled first, wherever it stands now; else what gives way first.
  const first = firstToFill(own, filled, views.find((each) => each.facts.rig.id === facts.rig.id)?.assessment?.beds);
  const chosen = own.find(({ id }) => id === vessel) ?? first ?? facts.vessel;
  const inOrder = first ? [first, ...own.filter(({ id }) => id !== first.id)] : own;
  if (!isGuided(what)) return <Chooser key={facts.rig.id} facts={facts} vessels={inOrder} />;
  return <GuideScreen key={`${facts.rig.id} ${what} ${chosen.id}`} facts={facts} vessel={chosen} guided={what} />;
}
