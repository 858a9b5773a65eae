import { GRADE, TRADE_CONSTANT_BAND } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useState } from "react";
import { inUse } from "../../data/in-use";
import { useRecords } from "../../data/store";
import { Choice, Opener, TextButton } from "../../ui/boxes";
import { FieldRow, NumberField } from "../../ui/fields";
import { scaleUnit, threeDigits, typedNumber, unitOf, type Units } from "../../ui/format";
import { Heading, Small } from "../../ui/words";
import { optionsOf } from "../../forms/options";
import { SCALE_OPTIONS, scaleOf } from "../../forms/scales";
import { SizePresets } from "../setup/SizePresets";
import { gradeSides } from "./litres";
import { fromPreset, fromTap, text, withRange, type Typed } from "./typed";

interface InputsProps {
  readonly typed: Typed;
  readonly patch: (part: Partial<Typed>) => void;
  readonly errors: Partial<Record<keyof Typed, string>>;
  readonly units: Units;
}

/** A number field of the screen, by its name. */
const fieldMaker = ({ typed, patch, errors }: InputsProps) => {
  const field = (name: keyof Typed, label: string, unit?: string, hint?: string) => (
    <NumberField
      key={name}
      label={label}
      value={typed[name]}
      onChange={(value) => patch({ [name]: value })}
      testID={`plan-${name}`}
      {...(unit ? { unit } : {})}
      {...(hint ? { hint } : {})}
      {...(errors[name] ? { error: errors[name] } : {})}
    />
  );
  return field;
};

/** A known tap fills the feed with what is known of it. */
function FromTap({ typed, patch, units }: InputsProps) {
  const taps = inUse(useRecords("taps").records);
  if (taps.length === 0) return null;
  const choose = (id: string) => {
    const tap = taps.find((each) => each.id === id);
    if (tap) patch(fromTap(tap, units));
  };
  const chosen = taps.find((tap) => text(tap.typical) === typed.typical && String(tap.scale) === typed.scale)?.id;
  const options = taps.map((tap) => ({ value: tap.id, label: tap.name }));
  return <Choice label="From a tap" value={chosen} options={options} onChange={choose} />;
}

const thousands = (value: number) => value.toLocaleString("en-US");

/** What the answer takes for granted, each the user's to change. */
function Assumptions(props: InputsProps) {
  const { typed, units } = props;
  const field = fieldMaker(props);
  const band = `${thousands(TRADE_CONSTANT_BAND.low)} to ${thousands(TRADE_CONSTANT_BAND.high)} are in use`;
  return (
    <View gap="$3">
      <FieldRow>
        {field("constant", "Trade constant", "gal·ppm/ft³ NaCl", band)}
        {field(
          "ratedVolume",
          "A maker's rating",
          unitOf("volume", units),
          "Such as 5,000 at 90 ppm from 8 L: the one you doubt",
        )}
        {field("ratedPpm", "at a feed of", "ppm NaCl")}
        {field("ratedResin", "from resin of", unitOf("resinVolume", units))}
      </FieldRow>
      <FieldRow>
        {field("ph", "pH")}
        {field("alkalinity", "Alkalinity", "mg/L CaCO3")}
        {field("silica", "Silica", "mg/L")}
        {field("temperature", "Temperature", unitOf("temperature", units))}
      </FieldRow>
      <FieldRow>
        {field("storage", "Left after storage", "", "1 is fresh")}
        {field("packing", "Packing", "", "1 settled, 0.95 poured, 0.8 loose")}
        {field("spread", "Uneven flow", "", "spread of the front")}
        {field("bypass", "Bypass share", "", "0 when all goes through the beads")}
      </FieldRow>
      <FieldRow>
        {field("grossVolume", "Vessel inside", unitOf("volume", units))}
        {field("emptyWeight", "Weight empty", unitOf("weight", units))}
      </FieldRow>
      <Small>{`${typed.grade} resin is taken to hold ${gradeSides(typed.grade).cation} eq/L on the cation and ${gradeSides(typed.grade).anion} eq/L on the anion side.`}</Small>
    </View>
  );
}

const inThree = (typed: string) => {
  const value = typedNumber(typed);
  return value === undefined ? "–" : threeDigits(value);
};

/** One number, and the range about it that goes along with it until it is opened and said. */
function FeedFields(props: InputsProps) {
  const { typed, patch, errors } = props;
  const [open, setOpen] = useState(errors.low !== undefined || errors.high !== undefined);
  const field = fieldMaker(props);
  const ppm = scaleUnit(scaleOf(typed.scale));
  if (open)
    return (
      <FieldRow>
        {field("low", "Lowest", ppm)}
        {field("typical", "Typical", ppm)}
        {field("high", "Highest", ppm)}
      </FieldRow>
    );
  return (
    <View gap="$1">
      <FieldRow>
        <NumberField
          label="Feed"
          unit={ppm}
          value={typed.typical}
          onChange={(typical) => patch(withRange(typed, typical))}
          testID="plan-typical"
          {...(errors.typical ? { error: errors.typical } : {})}
        />
        <View flex={1} minWidth={150} justifyContent="flex-end">
          <Opener onPress={() => setOpen(true)} testID="feed-range">
            {`from ${inThree(typed.low)} to ${inThree(typed.high)}`}
          </Opener>
        </View>
      </FieldRow>
    </View>
  );
}

/** Feed, resin and vessel; every digit answers at once. */
export function Inputs(props: InputsProps) {
  const { typed, patch, units } = props;
  const [more, setMore] = useState(false);
  const field = fieldMaker(props);
  return (
    <View gap="$4">
      <Heading>Feed</Heading>
      <FeedFields {...props} />
      <FromTap {...props} />
      <Choice
        label="Scale of the meter"
        value={typed.scale}
        options={SCALE_OPTIONS}
        onChange={(scale) => patch({ scale })}
      />
      <Heading>Resin and vessel</Heading>
      <Choice label="Resin" value={typed.grade} options={optionsOf(GRADE)} onChange={(grade) => patch({ grade })} />
      <SizePresets units={units} onChoose={(preset) => patch(fromPreset(preset, units))} />
      <FieldRow>
        {field("resin", "Resin in it", unitOf("resinVolume", units))}
        {field("diameter", "Inner diameter", unitOf("length", units))}
        {field("flow", "Flow", unitOf("flow", units))}
        {field("limit", "Limit", scaleUnit(scaleOf(typed.limitScale ?? "nacl")))}
      </FieldRow>
      <Choice
        label="Limit by school"
        value={typed.limitScale === "nacl" ? typed.limit : undefined}
        options={[
          { value: "1", label: "Aquarium 1" },
          { value: "2", label: "Aquarium 2" },
          { value: "10", label: "Glass 10" },
          { value: "20", label: "Glass 20" },
        ]}
        onChange={(limit) => patch({ limit, limitScale: "nacl" })}
      />
      <Choice
        label="The limit is on the scale"
        value={typed.limitScale}
        options={SCALE_OPTIONS}
        onChange={(limitScale) => patch({ limitScale })}
      />
      <TextButton onPress={() => setMore(!more)} expanded={more} testID="assumptions">
        {more ? "Close the assumptions" : "Assumptions, each yours to change"}
      </TextButton>
      {more ? <Assumptions {...props} /> : null}
    </View>
  );
}
