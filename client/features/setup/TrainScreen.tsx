import { useDraft } from "../../data/draft";
import { useHalfFilled } from "../../ui/half-filled";
import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { placesOf, rotates, type Id, type Place, type TrainDeed, type Vessel } from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import type { Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import { inUse } from "../../data/in-use";
import { act, change, takeBack, useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { momentText } from "../../forms/texts";
import { Card, Choice, HeavyButton, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { MomentField, SelectField } from "../../ui/pickers";
import { Screen } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { ActsWorth } from "../rack/ActsWorth";
import { TrainDrawing } from "../rack/TrainDrawing";
import { useRigs, type RigView } from "../rack/useRigs";
import { StagesAtTap } from "./StagesAtTap";
import { hangIn, rotate, takeOut, takeOver, type Cartridges, type TrainNow } from "./train-deeds";

const DID: Readonly<Record<TrainDeed, string>> = {
  "hung-in": "hung in",
  rotated: "rotated",
  swapped: "swapped",
  "taken-out": "one taken out",
  exchanged: "exchanged by a service",
  moved: "moved from another rig",
  refilled: "refilled and hung in",
  "taken-over": "taken over used",
};

/** Milliseconds of a time as it was typed: now where none stands there. */
const momentOf = (at: string): number => {
  const typed = Date.parse(at);
  return Number.isNaN(typed) ? clockNow() : typed;
};

/** Does what was asked, at the time that stands there, with its way back. */
function useDeed(rigName: string, at: string, onDone: () => void) {
  return async (what: string, stepsOf: (at: string) => readonly Step[]) => {
    const iso = new Date(momentOf(at)).toISOString();
    const { undo } = await act(`${rigName}: ${what}`, stepsOf(iso), iso);
    onDone();
    showToast({ words: `${rigName}: ${what}.`, undo });
  };
}

type Deed = ReturnType<typeof useDeed>;

/** One place: who stands there, out with it, or another in. */
function PlaceRow({
  train,
  place,
  number,
  deed,
}: {
  readonly train: TrainNow;
  readonly place: Place;
  readonly number: number;
  readonly deed: Deed;
}) {
  const { records: vessels } = useRecords("vessels");
  const { records: rigs } = useRecords("rigs");
  const trains = useTrains();
  const [{ chosen }, patch] = useDraft(`place:${place.stageId}:${place.vesselId ?? ""}`, { chosen: "" });
  const setChosen = (id: string) => patch({ chosen: id });
  const here = vessels.find(({ id }) => id === place.vesselId);
  const rigOf = (id: Id) => trains.rigOf(id, clockNow());
  const nameOf = (vessel: Vessel) => {
    const holder = rigs.find(({ id }) => id === rigOf(vessel.id));
    return holder ? `${vessel.name}, now in ${holder.name}` : `${vessel.name}, from the pool`;
  };
  const others = inUse(vessels).filter(({ id }) => id !== place.vesselId);
  const other = others.find(({ id }) => id === chosen);
  const hang = (vessel: Vessel) =>
    deed(here ? `${vessel.name} instead of ${here.name}` : `${vessel.name} hung in`, (at) =>
      hangIn(train, place.stageId, vessel.id, rigOf(vessel.id), at),
    );
  return (
    <View gap="$2" paddingVertical="$2" borderTopColor="$line" borderTopWidth={1} testID={`place-${number}`}>
      <Strong>{`${number}. ${here?.name ?? "nobody stands here"}`}</Strong>
      {here ? (
        <TextButton
          onPress={() => void deed(`${here.name} taken out`, (at) => takeOut(train, here.id, at))}
          testID={`take-out-${number}`}
        >
          {`Take ${here.name} out`}
        </TextButton>
      ) : null}
      {others.length > 0 ? (
        <View gap="$2">
          <SelectField
            label={here ? "Another in its place" : "Hang one in"}
            value={chosen}
            options={[
              { value: "", label: "Choose a vessel" },
              ...others.map((vessel) => ({ value: vessel.id, label: nameOf(vessel) })),
            ]}
            onChange={setChosen}
            testID={`other-${number}`}
          />
          {other ? (
            <TextButton onPress={() => void hang(other)} testID={`hang-in-${number}`}>
              {`Hang ${other.name} in`}
            </TextButton>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}

/** A rig that came with water already through it: nobody knows how much. */
function TakenOver({
  train,
  empty,
  deed,
}: {
  readonly train: TrainNow;
  readonly empty: readonly Vessel[];
  readonly deed: Deed;
}) {
  const [{ cartridges }, patch] = useDraft<{ readonly cartridges: Cartridges }>(`taken-over:${train.rig.id}`, {
    cartridges: "replaced",
  });
  const setCartridges = (chosen: Cartridges) => patch({ cartridges: chosen });
  const hasCartridges = train.rig.stages.some(({ kind }) => kind === "sediment" || kind === "carbon");
  return (
    <Card gap="$3" testID="taken-over">
      <Strong>Taken over used, its past unknown?</Strong>
      <Small>
        Its charges begin part-used, as a wide guess that readings narrow; a membrane’s baseline stays open until its
        first clean check.
      </Small>
      {hasCartridges ? (
        <Choice
          label="Its sediment and carbon cartridges"
          value={cartridges}
          options={[
            { value: "replaced", label: "New from now on" },
            { value: "unknown", label: "Nobody knows" },
          ]}
          onChange={setCartridges}
        />
      ) : null}
      <TextButton
        onPress={() => void deed("taken over used", (at) => takeOver(train, empty, cartridges, at))}
        testID="take-over"
      >
        {`Take over ${empty.map(({ name }) => name).join(" and ")} as used`}
      </TextButton>
    </Card>
  );
}

/** What was done to the train, newest first; each can be dated otherwise, and taken back. */
function Deeds({ rigId, now }: { readonly rigId: Id; readonly now: number }) {
  const { records } = useRecords("arrangements");
  const { records: vessels } = useRecords("vessels");
  const own = records.filter((each) => each.rigId === rigId).sort((a, b) => (a.at < b.at ? 1 : -1));
  const nameOf = (id: Id | undefined) => vessels.find((each) => each.id === id)?.name ?? "empty";
  const back = async (record: Kept<"arrangements">) => {
    const { undo } = await takeBack("arrangements", record);
    showToast({ words: "Taken back; its history stays.", undo });
  };
  const date = async (record: Kept<"arrangements">, text: string) => {
    const at = new Date(text);
    if (Number.isNaN(at.getTime())) return;
    const { id: _, version: _v, voided: _b, ...body } = record;
    const { undo } = await change("arrangements", record, { ...body, at: at.toISOString() });
    showToast({ words: "Dated otherwise.", undo });
  };
  return (
    <View gap="$2">
      <Heading>What was done</Heading>
      {own.map((record, i) => (
        <View key={record.id} gap="$1" paddingVertical="$2" borderTopColor="$line" borderTopWidth={1}>
          <Strong>{`${momentInWords(Date.parse(record.at), now)}: ${record.did ? DID[record.did] : "so it stood"}`}</Strong>
          <Small>{record.places.map(({ vesselId }) => nameOf(vesselId)).join(", then ")}</Small>
          {record.note ? <Small>{record.note}</Small> : null}
          <MomentField
            label="It was done"
            value={momentText(record.at)}
            onChange={(text) => void date(record, text)}
            testID={`deed-at-${i}`}
          />
          {own.length > 1 ? (
            <TextButton onPress={() => void back(record)} testID={`deed-back-${i}`}>
              Take it back: it never was
            </TextButton>
          ) : null}
        </View>
      ))}
    </View>
  );
}

/** The next one to the front. A spent lead is filled anew with it: last as it is, it would let through what the others took. */
function Rotation({
  lead,
  next,
  isSpent,
  refill,
  onRotate,
}: {
  readonly lead: Vessel;
  readonly next: Vessel;
  readonly isSpent: boolean;
  readonly refill: string;
  readonly onRotate: () => void;
}) {
  const refilled = `Refill ${lead.name}, then it stands last`;
  return (
    <View gap="$2">
      {isSpent ? (
        <>
          <HeavyButton href={refill} testID="refill-lead">
            {refilled}
          </HeavyButton>
          <Small>{`${lead.name} is spent: last as it is, it would let through what ${next.name} takes out.`}</Small>
          <TextButton onPress={onRotate} testID="rotate">
            {`Only note it: ${next.name} leads`}
          </TextButton>
        </>
      ) : (
        <>
          <HeavyButton onPress={onRotate} testID="rotate">
            {`Rotate: ${next.name} leads`}
          </HeavyButton>
          <Small>{`${lead.name} goes last as it is. Where it is emptied too, start its refill: both are kept at once.`}</Small>
          <TextButton href={refill} testID="refill-lead">
            {refilled}
          </TextButton>
        </>
      )}
    </View>
  );
}

function Train({ view }: { readonly view: RigView }) {
  const { rig, train: known } = view.facts;
  const [{ at }, patch, clear] = useDraft(`train:${rig.id}`, { at: "" });
  const setAt = (moment: string) => patch({ at: moment });
  useHalfFilled(at !== "");
  const trains = useTrains();
  const { records: charges } = useRecords("charges");
  const places = placesOf(rig, trains, momentOf(at));
  const train: TrainNow = { rig, places };
  const deed = useDeed(rig.name, at, clear);
  const standing = places.flatMap(({ vesselId }) => known.vessels.filter(({ id }) => id === vesselId));
  const filled = charges.filter(
    ({ ended, vesselId }) => ended === undefined && standing.some(({ id }) => id === vesselId),
  );
  const empty = standing.filter(({ id }) => !filled.some(({ vesselId }) => vesselId === id));
  const [lead, next] = standing;
  return (
    <View gap="$4">
      <TrainDrawing view={view} />
      <MomentField
        label="When"
        hint="Empty for now; what was typed later is dated when it was done."
        value={at}
        onChange={setAt}
        testID="deed-when"
      />
      {lead && next && rotates(filled) ? (
        <Rotation
          lead={lead}
          next={next}
          isSpent={view.assessment?.lead?.vessel.id === lead.id}
          refill={`/refill?rig=${rig.id}&what=refill&vessel=${lead.id}`}
          onRotate={() => void deed("rotated", (iso) => rotate(train, iso))}
        />
      ) : null}
      <ActsWorth view={view} />
      <View>
        <Heading>Places, from the tap</Heading>
        {places.map((place, i) => (
          <PlaceRow
            key={`${place.stageId} ${place.vesselId ?? ""}`}
            train={train}
            place={place}
            number={i + 1}
            deed={deed}
          />
        ))}
      </View>
      {empty.length > 0 ? <TakenOver train={train} empty={empty} deed={deed} /> : null}
      <StagesAtTap view={view} />
      <TextButton href={`/setup/rig?id=${rig.id}`}>Add or take out stages</TextButton>
      <Deeds rigId={rig.id} now={view.facts.now} />
    </View>
  );
}

/** Who stands where in a rig: rotated, swapped, taken out, moved, each dated and undoable. */
export function TrainPlace() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { rigs, pending } = useRigs();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  if (!view && !pending) return <NotHere what="rig" href="/setup" way="To Set up" />;
  return (
    <Screen title={view ? `${view.facts.rig.name}: the train` : "The train"}>
      {view ? <Train key={view.facts.rig.id} view={view} /> : <Body role="status">One moment…</Body>}
    </Screen>
  );
}
