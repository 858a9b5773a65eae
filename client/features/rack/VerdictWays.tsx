import { View } from "@tamagui/core";
import { likelyCauses, type Standing } from "@winter-bead/core";
import { useState } from "react";
import { TextButton } from "../../ui/boxes";
import { Body, Strong } from "../../ui/words";
import type { RigView } from "./useRigs";

/** Causes that are worth a look. */
const MOST = 4;

/** What may stand behind readings that the count does not explain, likeliest first. */
function Causes({ standing }: { readonly standing: Standing }) {
  const [open, setOpen] = useState(false);
  return (
    <View gap="$1">
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="likely-causes">
        {open ? "Close" : "Likely causes"}
      </TextButton>
      {open
        ? likelyCauses(standing)
            .slice(0, MOST)
            .map(({ cause, name, reasonsFor }, i) => (
              <Body key={cause} testID="likely-cause">
                <Strong>{`${i + 1}. ${name}`}</Strong>
                {reasonsFor.length > 0 ? `: ${reasonsFor.map(({ words }) => words.toLowerCase()).join("; ")}.` : "."}
              </Body>
            ))
        : null}
    </View>
  );
}

/** The ways to what a verdict asks for beside the resin: a measurement, a mark, a cartridge, the membrane, the causes. */
export function VerdictWays({ view }: { readonly view: RigView }) {
  const { facts, assessment } = view;
  const { standing, before = {} } = assessment ?? {};
  if (!standing) return null;
  const { rig, vessel } = facts;
  const ways = [
    ...(before.chlorineAt === undefined
      ? []
      : [{ href: `/refill?rig=${rig.id}&what=carbon`, words: "Change the carbon: lead me" }]),
    ...(before.climbing ? [{ href: `/water/membrane?rig=${rig.id}`, words: "Check the membrane" }] : []),
    ...(standing.carbon ? [{ href: `/setup/tap?id=${rig.tapId}&more=water`, words: "Enter KH and pH" }] : []),
    ...(standing.plateau ? [{ href: `/setup/vessel?id=${vessel.id}`, words: "Raise the mark" }] : []),
  ];
  return (
    <>
      {ways.length > 0 ? (
        <View flexDirection="row" flexWrap="wrap" columnGap="$4" testID="verdict-ways">
          {ways.map(({ href, words }) => (
            <TextButton key={href} href={href}>
              {words}
            </TextButton>
          ))}
        </View>
      ) : null}
      {standing.isExplained ? null : <Causes standing={standing} />}
    </>
  );
}
