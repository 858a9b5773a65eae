import { View } from "@tamagui/core";
import { optionName } from "@winter-bead/core/src/sizing";
import { useLocalSearchParams } from "expo-router";
import type { Kept } from "../../data/api";
import { useRecords } from "../../data/store";
import { Card, EmptyState, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { useWide } from "../../ui/width";
import { dayOfMoment } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import { wholeMoney } from "./money";
import { PlanDetail } from "./PlanDetail";
import { NotHere } from "../../ui/NotHere";
import { SizeScreen } from "./SizeScreen";
import { useWork } from "./useWork";

function PlanRow({ plan, chosen }: { readonly plan: Kept<"plans">; readonly chosen: boolean }) {
  return (
    <Pressable
      role="link"
      aria-current={chosen ? "true" : undefined}
      aria-label={plan.name}
      href={`/size/plans/${plan.id}`}
      alignItems="stretch"
      style={{ textAlign: "left" }}
      testID="plan-row"
    >
      <Card borderColor={chosen ? "$ink" : "$line"}>
        <View flexDirection="row" justifyContent="space-between" gap="$3">
          <Strong flexShrink={1}>{plan.name}</Strong>
          <Strong>{wholeMoney(plan.expected.cost.total, plan.currency)}</Strong>
        </View>
        <Body>{optionName(plan.option)}</Body>
        <Small>{plan.rigId ? "In use, held against the log" : `Kept ${dayOfMoment(plan.keptAt)}`}</Small>
      </Card>
    </Pressable>
  );
}

/** Every kept plan, and the one in the address with all it expects. */
export function PlansScreen() {
  const wide = useWide();
  const work = useWork();
  const { plan: wanted } = useLocalSearchParams<{ plan?: string }>();
  const { records, pending } = useRecords("plans");
  const plans = [...records].sort((a, b) => (a.keptAt < b.keptAt ? 1 : -1));
  const chosen = plans.find(({ id }) => id === wanted) ?? (wide && wanted === undefined ? plans[0] : undefined);
  const list = (
    <View gap="$3" testID="plans">
      {pending ? <Body role="status">One moment…</Body> : null}
      {!pending && plans.length === 0 ? (
        <EmptyState title="No plan yet" action={<HeavyButton href="/size/vessel">Find the right vessel</HeavyButton>}>
          An option that you keep under Vessel stands here: to share, to build, and to hold against what happens.
        </EmptyState>
      ) : null}
      {plans.map((plan) => (
        <PlanRow key={plan.id} plan={plan} chosen={plan.id === chosen?.id} />
      ))}
    </View>
  );
  if (wanted !== undefined && !chosen && !pending) return <NotHere what="plan" href="/size/plans" way="All plans" />;
  const detail = chosen ? <PlanDetail key={chosen.id} plan={chosen} work={work} /> : undefined;
  if (wide)
    return (
      <SizeScreen title="Plans" detail={detail}>
        {list}
      </SizeScreen>
    );
  if (wanted === undefined) return <SizeScreen title="Plans">{list}</SizeScreen>;
  return (
    <SizeScreen title="Plan">
      <TextButton href="/size/plans">All plans</TextButton>
      {detail ?? list}
    </SizeScreen>
  );
}
