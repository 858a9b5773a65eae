import { View } from "@tamagui/core";
import { RISER_WAYS, WAY_CHOICES, type GuideStep, type WayName, type Ways } from "@winter-bead/core/src/refill";
import { useState } from "react";
import { optionsOf } from "../../forms/options";
import { useSettings } from "../../data/settings";
import { internalNumber, numberText, shownNumber } from "../../forms/texts";
import { Choice, PlainButton, TextButton } from "../../ui/boxes";
import { NumberField } from "../../ui/fields";
import { capital, typedNumber, unitOf } from "../../ui/format";
import { Small } from "../../ui/words";
import { chooseWays } from "./guide-deeds";
import type { Guide } from "./useGuide";

const nowWords = (ways: Ways, name: WayName) => (WAY_CHOICES[name].of as Readonly<Record<string, string>>)[ways[name]]!;

/** Fill mark and scoop, where beads go in. */
function Measures({ guide, step }: { readonly guide: Guide; readonly step: GuideStep }) {
  const { units } = useSettings();
  const { ways } = guide.setting;
  const [fill, setFill] = useState(numberText(100 * ways.fillTo));
  const [scoop, setScoop] = useState(numberText(shownNumber("resinVolume", ways.scoop, units)));
  const [to, of] = [typedNumber(fill), typedNumber(scoop)];
  const fillOk = to !== undefined && to > 0 && to <= 100;
  const scoopOk = of !== undefined && of > 0 && internalNumber("resinVolume", of, units) <= 20;
  const next =
    fillOk && scoopOk ? { ...ways, fillTo: to / 100, scoop: internalNumber("resinVolume", of, units) } : undefined;
  const isOther = next && (Math.abs(next.fillTo - ways.fillTo) > 1e-6 || Math.abs(next.scoop - ways.scoop) > 1e-6);
  return (
    <View gap="$2">
      <View flexDirection="row" gap="$3">
        <NumberField
          label="Fill to"
          unit="%"
          value={fill}
          onChange={setFill}
          testID="way-fill-to"
          {...(fillOk ? {} : { error: "Above 0, to 100 %." })}
        />
        <NumberField
          label="A scoop"
          unit={unitOf("resinVolume", units)}
          value={scoop}
          onChange={setScoop}
          testID="way-scoop"
          {...(scoopOk ? {} : { error: "More than nothing." })}
        />
      </View>
      {isOther ? (
        <PlainButton onPress={() => void chooseWays(guide, step, next)} testID="way-measures">
          From here on
        </PlainButton>
      ) : null}
    </View>
  );
}

/** The schools that part at a step: said in one line, changed there, kept for the next time. */
export function WaysHere({ guide, step }: { readonly guide: Guide; readonly step: GuideStep }) {
  const [open, setOpen] = useState(false);
  const { ways } = guide.setting;
  if (step.ways.length === 0) return null;
  const options = (name: WayName) =>
    optionsOf(WAY_CHOICES[name] as (typeof WAY_CHOICES)["riser"]).filter(
      ({ value }) => name !== "riser" || RISER_WAYS[guide.vessel.kind].includes(value),
    );
  return (
    <View gap="$2" testID="ways">
      <Small>{`You do it so: ${step.ways.map((name) => nowWords(ways, name).toLowerCase()).join(", ")}.`}</Small>
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="other-way">
        {open ? "Close" : "Another way"}
      </TextButton>
      {open
        ? step.ways.map((name) => (
            <Choice
              key={name}
              label={capital(WAY_CHOICES[name].called.replace(/^The /, ""))}
              value={ways[name] as Ways["riser"]}
              options={options(name)}
              onChange={(value) => void chooseWays(guide, step, { ...ways, [name]: value } as Ways)}
              testID={`way-${name}`}
            />
          ))
        : null}
      {open && step.id === "fill" ? <Measures guide={guide} step={step} /> : null}
    </View>
  );
}
