import { View } from "@tamagui/core";
import {
  aerate,
  CO2_MG_PER_MMOL,
  explainAeration,
  explainCarbonDioxide,
  explainHiddenShare,
  type ReportAnswer,
  type ReportValues,
} from "@winter-bead/core";
import { useDraft } from "../../data/draft";
import { Choice } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { percent, threeDigits } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { EquivalentsBar } from "./EquivalentsBar";

const HOURS = ["2", "4", "8", "12", "24"] as const;

/** What some hours of aeration take off the anion beads. */
function Aeration({ answer }: { readonly answer: ReportAnswer }) {
  const [{ hours }, patch] = useDraft("aeration", { hours: "8" });
  const { co2 } = answer.water;
  const after = aerate({ co2, hours: Number(hours) });
  if (!after.ok) return null;
  const gone = Math.max(0, co2 - after.value.co2) / CO2_MG_PER_MMOL;
  const before = answer.water.anionLoad;
  const longer = Math.max(answer.water.cationLoad, before) / Math.max(answer.water.cationLoad, before - gone) - 1;
  return (
    <View gap="$2" testID="aeration">
      <Choice
        label="Aerated in a barrel for, hours"
        value={hours}
        options={HOURS.map((value) => ({ value, label: value }))}
        onChange={(value) => patch({ hours: value })}
      />
      <Explained explanation={explainAeration(co2, Number(hours))}>
        <Body>
          Carbon dioxide falls from {threeDigits(co2)} to{" "}
          <Strong textDecorationLine="underline" textDecorationStyle="dotted" testID="co2-after">
            {threeDigits(after.value.co2)}
          </Strong>{" "}
          mg/L.
        </Body>
      </Explained>
      <Body>
        {longer > 0.005
          ? `That is ${percent(gone / before)} % off the anion load: about ${percent(longer)} % more litres until anything leaks, where the anion beads end the charge.`
          : "Here the cation beads end the charge first, so aeration would save nothing."}
      </Body>
    </View>
  );
}

/** What the meter doesn't see, beside what it does. */
export function HiddenLoadPart({ answer, values }: { readonly answer: ReportAnswer; readonly values: ReportValues }) {
  const { hidden, water } = answer;
  const { ph, alkalinity, ec25, temperature = 15 } = values;
  const canExplain = ph !== undefined && alkalinity !== undefined && values.co2 === undefined;
  const nothing = hidden.co2 + hidden.silica + hidden.ammonia === 0;
  return (
    <View gap="$3" testID="hidden-load">
      <Heading>What the meter doesn’t see</Heading>
      <EquivalentsBar answer={answer} />
      {nothing ? (
        <Body color="$soft">
          Nothing is known of it yet. pH and alkalinity tell the carbon dioxide; a test strip or the supplier’s report
          will do. Silica is in the report.
        </Body>
      ) : (
        <View gap="$1">
          <Explained explanation={explainHiddenShare(hidden)} testID="hidden-share">
            <Body>
              <Strong textDecorationLine="underline" textDecorationStyle="dotted">
                {percent(hidden.share)} %
              </Strong>{" "}
              of the anion load is carbon dioxide and silica: they use up beads, and no meter shows them.
            </Body>
          </Explained>
          {hidden.co2 > 0 ? (
            <Explained
              explanation={
                canExplain ? explainCarbonDioxide({ ph, alkalinity, ec25: ec25 ?? water.ec25, temperature }) : undefined
              }
              testID="explain-co2"
            >
              <Body>
                Carbon dioxide{" "}
                <Strong textDecorationLine={canExplain ? "underline" : "none"} textDecorationStyle="dotted">
                  {threeDigits(water.co2)}
                </Strong>{" "}
                mg/L, {threeDigits(hidden.co2)} meq/L
              </Body>
            </Explained>
          ) : null}
          {hidden.silica > 0 ? (
            <Body>{`Silica ${threeDigits(values.silica!)} mg/L, ${threeDigits(hidden.silica)} meq/L`}</Body>
          ) : null}
          {hidden.ammonia > 0 ? (
            <Body>{`Chloramine ${threeDigits(values.chloramine!)} mg/L as Cl2: carbon splits it, and ${threeDigits(hidden.ammonia)} meq/L of ammonia goes on to the cation beads, ${percent(hidden.ammoniaShare)} % of their load.`}</Body>
          ) : null}
          {hidden.co2 > 0 ? <Small>Free carbon dioxide passes a membrane unhindered.</Small> : null}
        </View>
      )}
      {hidden.co2 > 0 ? <Aeration answer={answer} /> : null}
    </View>
  );
}
