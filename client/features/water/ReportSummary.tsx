import { View } from "@tamagui/core";
import {
  analysisOf,
  explainConductivity,
  explainImbalance,
  missingFrom,
  type ReportAnswer,
  type ReportValues,
} from "@winter-bead/core";
import { Explained } from "../../ui/Explained";
import { percent, threeDigits } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";

/** Whether an analysis can be believed: its balance, and its conductivity against the measured one. */
export function ReportSummary({ answer, values }: { readonly answer: ReportAnswer; readonly values: ReportValues }) {
  const { imbalance, warnings } = answer.water;
  const missing = missingFrom(values);
  const apart = imbalance === undefined ? "" : `${percent(Math.abs(imbalance))} %`;
  return (
    <View gap="$1" testID="report-summary">
      {imbalance === undefined ? null : (
        <Explained explanation={explainImbalance(answer.cationSum, answer.anionSum)} testID="explain-balance">
          <Body testID="balance">
            {Math.abs(imbalance) <= 0.05 ? "It balances: cations and anions are " : "Cations and anions are "}
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
              {apart}
            </Strong>
            {Math.abs(imbalance) <= 0.05 ? " apart." : ` apart, ${imbalance > 0 ? "anions" : "cations"} are short.`}
          </Body>
        </Explained>
      )}
      {warnings.map(({ code, message }) => (
        <Body key={code} role="note" color={code === "analysis-untrustworthy" ? "$rowan" : "$ink"}>
          {message}
        </Body>
      ))}
      {answer.conductivityRatio === undefined ? null : (
        <Explained explanation={explainConductivity(analysisOf(values)!)} testID="explain-conductivity">
          <Body testID="conductivity-check">
            {"Its ions make "}
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
              {threeDigits(answer.computedEc25!)}
            </Strong>
            {` µS/cm, measured ${threeDigits(values.ec25!)}: `}
            {answer.conductivityAgrees ? "they agree." : "something is missing or mistyped."}
          </Body>
        </Explained>
      )}
      {missing.length > 0 ? <Small>{`Not in it: ${missing.join(", ")}.`}</Small> : null}
    </View>
  );
}
