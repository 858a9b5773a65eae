import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import type { Bag, BagInStock, Order, RigAhead, WeeksAhead } from "@winter-bead/core";
import {
  bestBags,
  commonOffers,
  explainSize,
  inOrderOfUse,
  isEmpty,
  isItsCartridge,
  TOO_WEAK,
  USED_WITHIN,
  usualCartridge,
  type BagOffer,
  type BagSizeQuestion,
} from "@winter-bead/core/src/weeks";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { Card, PlainButton, Pressable, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { download } from "../../ui/files";
import { capital, dateInWords, localDate, shown, type Units } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { onDemand } from "../on-demand-piece";
import { money } from "../size/money";
import { orderWords } from "./Ahead";
import { useWeeks } from "./useWeeks";
import { bagName, months, pastDay } from "./words";

const share = (value: number) => value.toFixed(2);
const resin = (litres: number, units: Units) => {
  const { text, unit } = shown("resinVolume", litres, units);
  return `${text} ${unit}`;
};

/** What a bag is worth, in words. */
export function worthWords({ worth, bag }: BagInStock): string {
  const { low, typical, high } = worth.share;
  const range = high - low < 0.005 ? share(typical) : `${share(low)} to ${share(high)}`;
  const open =
    worth.openMonths >= 1 ? `open ${Math.round(worth.openMonths)} months${bag.warm ? " in the warm" : ""}, ` : "";
  const unknown = worth.ageUnknown ? " Ask the seller when it was made." : "";
  return `${open}worth ${range} of fresh resin.${unknown}`;
}

function BagLine({
  stock,
  first,
  units,
}: {
  readonly stock: BagInStock;
  readonly first: boolean;
  readonly units: Units;
}) {
  const { bag, left, worth } = stock;
  const isWeak = worth.share.typical < TOO_WEAK;
  return (
    <Pressable
      href={`/weeks/bag?id=${bag.id}`}
      alignItems="flex-start"
      alignSelf="stretch"
      borderBottomColor="$line"
      borderBottomWidth={1}
      paddingVertical="$2"
      testID={`bag-${bag.name}`}
    >
      <View flexDirection="row" gap="$2" alignItems="baseline" flexWrap="wrap">
        <Strong fontSize="$3">{left < 0 ? `${resin(left, units)}` : resin(left, units)}</Strong>
        <Strong>{bagName(bag)}</Strong>
        {first ? <Small color="$ink">use this one first</Small> : null}
      </View>
      {left < 0 ? (
        <Body color="$rowan">More was taken out than it held: count what is in it, or correct a refill.</Body>
      ) : null}
      <Small textAlign="left" color={isWeak ? "$rowan" : "$soft"}>
        {`${bag.form === "cartridge" ? "cartridge, " : ""}${bag.grade}; ${isWeak ? "hardly worth a refill: " : ""}${worthWords(stock)}${bag.place ? ` ${bag.place}.` : ""}`}
      </Small>
    </Pressable>
  );
}

function Orders({
  orders,
  ahead,
  units,
}: {
  readonly orders: readonly Order[];
  readonly ahead: WeeksAhead;
  readonly units: Units;
}) {
  const save = async () => {
    const { ordersCsv } = await onDemand();
    download(`resin-to-order-${localDate(clockNow())}.csv`, ordersCsv(ahead), "text/csv");
  };
  return (
    <View gap="$2">
      <Heading>To order</Heading>
      {orders.length === 0 ? <Body>What is on the shelf reaches for these weeks.</Body> : null}
      {orders.map((order) => (
        <Card key={order.by} testID="order-card">
          <Strong color={order.by <= ahead.today ? "$rowan" : "$ink"}>{orderWords(order, ahead.today, units)}</Strong>
          {order.lines.flatMap(({ grade, for: refills }) =>
            refills.map(({ rigId, on, litres }) => (
              <Small key={`${grade} ${rigId} ${on}`}>
                {`${resin(litres, units)} for the refill of ${dateInWords(on, ahead.today)}`}
              </Small>
            )),
          )}
        </Card>
      ))}
      {orders.length > 0 ? (
        <View flexDirection="row" gap="$3" flexWrap="wrap" className="not-printed">
          <TextButton onPress={() => void save()} testID="orders-csv">
            Save as CSV
          </TextButton>
          <TextButton onPress={() => window.print()}>Print</TextButton>
        </View>
      ) : null}
    </View>
  );
}

/** The sizes that this crew has bought with their last prices, beside those commonly sold; for a housing, cartridges too. */
function offersFor({ kind, filling: { grade, resinLitres } }: RigAhead, ahead: WeeksAhead): readonly BagOffer[] {
  const perLitre = ahead.prices.resin[grade];
  const bought = ahead.stock
    .map(({ bag }) => bag)
    .filter((bag) => bag.grade === grade && bag.price !== undefined && bag.currency === ahead.currency)
    .sort((a, b) => (a.boughtOn < b.boughtOn ? 1 : -1));
  const offer = ({ form, litres, price }: Bag): BagOffer => ({ form, litres, price: price!, isOwn: true });
  const own = bought.filter(({ form }) => form === "loose").map(offer);
  const common = commonOffers(perLitre).filter(({ litres }) => !own.some((each) => each.litres === litres));
  const cartridges = bought.filter((bag) => isItsCartridge(bag, resinLitres)).map(offer);
  return [
    ...[...own, ...common].filter((each, i, all) => all.findIndex(({ litres }) => litres === each.litres) === i),
    ...(kind === "cartridge" ? [cartridges[0] ?? usualCartridge(perLitre, resinLitres)] : []),
  ];
}

const offerWords = ({ form, litres }: BagOffer, units: Units) =>
  form === "cartridge" ? `ready-filled cartridges of ${resin(litres, units)}` : `bags of ${resin(litres, units)}`;

const WEEKS_A_MONTH = 4.348;

function BagSize({
  rig,
  ahead,
  units,
  name,
}: {
  readonly rig: RigAhead;
  readonly ahead: WeeksAhead;
  readonly units: Units;
  readonly name: string;
}) {
  if (!(rig.week > 0)) return null;
  const { filling, planned, week } = rig;
  const everyMonths = planned.fresh.typical / week / WEEKS_A_MONTH;
  const question: BagSizeQuestion = {
    ...{ fill: filling.resinLitres, everyMonths, closed: "rolled-or-zip", warm: false },
    delivery: ahead.prices.delivery,
  };
  const sizes = bestBags(offersFor(rig, ahead), question);
  const [best, ...others] = sizes;
  if (!best) return null;
  return (
    <View gap={2} testID="bag-size">
      <Strong>{`${name}: ${offerWords(best, units)}`}</Strong>
      <Small>
        {`${resin(filling.resinLitres, units)} about every ${everyMonths < 1.5 ? `${Math.round(everyMonths * WEEKS_A_MONTH)} weeks` : months(Math.round(everyMonths))}: ${money(best.perFreshLitre, ahead.currency)} a litre as good as fresh, ${best.form === "cartridge" ? "and nothing is left over" : `rests wait ${best.oldestMonths < 0.75 ? "under a month" : months(Math.round(best.oldestMonths))}`}.`}
        {others
          .map((each) => {
            const waits =
              each.oldestMonths > USED_WITHIN ? `, but rests wait ${months(Math.round(each.oldestMonths))}` : "";
            return ` ${capital(offerWords(each, units))}: ${money(each.perFreshLitre, ahead.currency)}${waits}.`;
          })
          .join("")}
      </Small>
      <Explained explanation={explainSize(best, question, ahead.currency)} label="Why so much" />
    </View>
  );
}

/** Resin on the shelf: which to use first, what to order until when, which size to buy, and what waits to be taken away. */
export function StockScreen() {
  const { units } = useSettings();
  const { ahead } = useWeeks();
  const { records: rigs } = useRecords("rigs");
  const { records: disposals } = useRecords("disposals");
  const standing = ahead ? inOrderOfUse(ahead.stock) : [];
  const short = ahead?.stock.filter(({ left }) => left < 0) ?? [];
  const gone = ahead?.stock.filter((each) => isEmpty(each) && each.left >= 0) ?? [];
  const firstOf = new Map<string, string>();
  for (const { bag } of standing) if (!firstOf.has(bag.grade)) firstOf.set(bag.grade, bag.id);
  const counted = (grade: string) => standing.filter(({ bag }) => bag.grade === grade).length > 1;
  return (
    <Screen title="Stock">
      <View gap="$5">
        <View gap="$1">
          {ahead ? null : <Body role="status">Working it out…</Body>}
          {ahead && standing.length === 0 ? (
            <Body color="$soft">
              No bag yet. Note what is bought: what is left, its age and the next order follow from it.
            </Body>
          ) : null}
          {[...short, ...standing].map((each) => (
            <BagLine
              key={each.bag.id}
              stock={each}
              first={firstOf.get(each.bag.grade) === each.bag.id && counted(each.bag.grade)}
              units={units}
            />
          ))}
          <PlainButton href="/weeks/bag" testID="add-bag">
            Note a bag or a cartridge
          </PlainButton>
        </View>
        {ahead ? <Orders orders={ahead.orders} ahead={ahead} units={units} /> : null}
        {ahead && ahead.rigs.length > 0 ? (
          <View gap="$2">
            <Heading>Which size to buy</Heading>
            {ahead.rigs.map((rig) => (
              <BagSize
                key={rig.rigId}
                rig={rig}
                ahead={ahead}
                units={units}
                name={rigs.find(({ id }) => id === rig.rigId)?.name ?? ""}
              />
            ))}
          </View>
        ) : null}
        <View gap="$2">
          <Heading>Spent resin</Heading>
          {ahead ? (
            <Body testID="spent">
              {ahead.spent > 0
                ? `${resin(ahead.spent, units)} wait to be taken away. Usually ordinary waste, bagged; ask your local authority or the supplier.`
                : "Nothing waits to be taken away."}
            </Body>
          ) : null}
          {[...disposals]
            .sort((a, b) => (a.on < b.on ? 1 : -1))
            .map(({ id, on, litres, to }) => (
              <TextButton key={id} href={`/weeks/disposal?id=${id}`}>
                {`${pastDay(on)}: ${resin(litres, units)}, ${to}`}
              </TextButton>
            ))}
          <TextButton href={`/weeks/disposal${ahead && ahead.spent > 0 ? `?litres=${ahead.spent.toFixed(1)}` : ""}`}>
            Note what was taken away
          </TextButton>
        </View>
        {gone.length > 0 ? (
          <View gap="$1">
            <Heading>Empty or gone</Heading>
            {gone.map(({ bag }) => (
              <TextButton key={bag.id} href={`/weeks/bag?id=${bag.id}`}>
                {bagName(bag)}
              </TextButton>
            ))}
          </View>
        ) : null}
      </View>
    </Screen>
  );
}
