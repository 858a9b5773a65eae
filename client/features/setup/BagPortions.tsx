import { View } from "@tamagui/core";
import type { BagInStock, Charge } from "@winter-bead/core";
import { leftAfter, TOO_WEAK } from "@winter-bead/core/src/stock/stock";
import { BesideField } from "../../forms/RecordField";
import type { RecordForm as Form } from "../../forms/useRecordForm";
import { PlainButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { litres, shown, unitOf } from "../../ui/format";
import { Body, Heading, Small } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { useLastStanding } from "../rack/useLastStanding";
import { money } from "../size/money";
import { usePrices } from "../size/usePrices";
import { asText, bagComplaints, bagsFor, boxOf, FROM_BAGS, mixtureMeans, portionsIn, proposedBoxes } from "./from-bags";

/** What the resin in the boxes is worth for this refill, in litres and money, before anything is kept. */
function Means({
  form,
  stock,
  facts,
}: {
  readonly form: Form;
  readonly stock: readonly BagInStock[];
  readonly facts: RigFacts;
}) {
  const { prices, currency } = usePrices();
  const charge = form.bodiesNow()["charge"] as unknown as Charge;
  const portions = portionsIn(form.beside(), stock, charge, form.units);
  const standing = useLastStanding(facts);
  if (portions.length === 0 || !Number.isFinite(charge.resinLitres)) return null;
  const { worth, litres: gives, lost } = mixtureMeans(portions, stock, charge, prices.resin[charge.grade], standing);
  const rests = portions.flatMap(({ bagId, litres: taken }) => {
    const found = stock.find(({ bag }) => bag.id === bagId);
    const rest = found ? leftAfter(found.bag, found.left, taken) : 0;
    const { text, unit } = shown("resinVolume", Math.max(0, rest), form.units);
    return found ? [rest < 0.05 ? `${found.bag.name} is empty then` : `${text} ${unit} stay in ${found.bag.name}`] : [];
  });
  const stays = `${rests.join(", ")}.`;
  if (worth > 0.995) return <Body>{`As good as fresh. ${stays}`}</Body>;
  const inLitres = gives
    ? `: about ${litres(gives.now, form.units)} in place of ${litres(gives.fresh, form.units)}`
    : "";
  return (
    <Body testID="mixture-means" color={worth < TOO_WEAK ? "$rowan" : "$ink"}>
      {`Worth ${worth.toFixed(2)} of fresh resin${inLitres}; ${money(lost, currency)} of it has aged away. ${stays}${worth < TOO_WEAK ? " Hardly worth the work of a refill." : ""}`}
    </Body>
  );
}

/** Which bags a refill is taken from, and how much of each: proposed in the order in which they age. */
export function BagPortions({
  form,
  stock,
  facts,
}: {
  readonly form: Form;
  readonly stock: readonly BagInStock[];
  readonly facts: RigFacts;
}) {
  const charge = form.bodiesNow()["charge"] as unknown as Charge;
  const bags = bagsFor(stock, charge.grade);
  const beside = form.beside();
  const portions = portionsIn(beside, stock, charge, form.units);
  // A ready-filled cartridge is the whole refill, whatever stands on it.
  const isWhole = portions.some(({ bagId }) => bags.find(({ bag }) => bag.id === bagId)?.bag.form === "cartridge");
  const missing = isWhole ? 0 : charge.resinLitres - portions.reduce((sum, { litres: taken }) => sum + taken, 0);
  const asks = bagComplaints(portions, stock, charge, String(beside["rightBags"] ?? ""), form.units).some(
    ({ message }) => message.includes("say that it is right"),
  );
  const way = String(form.watch("beside.fromBags") ?? "none");
  const propose = () => {
    for (const [name, text] of Object.entries(proposedBoxes(stock, charge.grade, charge.resinLitres, form.units)))
      form.setValue(`beside.${name}` as never, text as never);
  };
  return (
    <View gap="$2" testID="bag-portions">
      <Heading>From which bags</Heading>
      {bags.length === 0 ? <Body>No bag of this resin is in stock: nothing is taken off the stock.</Body> : null}
      {bags.length > 0 ? (
        <BesideField
          form={form}
          name="fromBags"
          label="Its resin comes"
          is="choice"
          options={FROM_BAGS}
          onChosen={(way) => (way === "typed" ? propose() : undefined)}
        />
      ) : null}
      {way === "proposed"
        ? portions.map(({ bagId, litres: taken }) => {
            const { text, unit } = shown("resinVolume", taken, form.units);
            return (
              <Body key={bagId} testID="portion">
                {`${text} ${unit} from ${stock.find(({ bag }) => bag.id === bagId)!.bag.name}`}
              </Body>
            );
          })
        : null}
      {way !== "none" && bags.length > 0 && missing > 0.05 * charge.resinLitres ? (
        <Body color="$rowan" testID="missing">
          {`${shown("resinVolume", missing, form.units).text} ${shown("resinVolume", missing, form.units).unit} of it come from no bag in stock.`}
        </Body>
      ) : null}
      {way === "typed" ? (
        <FieldRow>
          {bags.map(({ bag, left, worth }) => {
            const { text, unit } = shown("resinVolume", left, form.units);
            const age = worth.share.typical < 0.995 ? `, worth ${worth.share.typical.toFixed(2)}` : "";
            return (
              <BesideField
                key={bag.id}
                form={form}
                name={boxOf(bag.id)}
                label={bag.name}
                hint={`${text} ${unit} left${age}`}
                unit={unitOf("resinVolume", form.units)}
                is="number"
                testID={`from-${bag.name}`}
              />
            );
          })}
        </FieldRow>
      ) : null}
      {asks ? (
        <PlainButton
          testID="right-bags"
          onPress={() => {
            form.setValue("beside.rightBags" as never, asText(portions) as never);
            form.clearErrors("beside" as never);
          }}
        >
          So much was in it
        </PlainButton>
      ) : null}
      {portions.length > 1 ? <Small>Rests are mixed; the mixture counts with what each is worth.</Small> : null}
      <Means form={form} stock={stock} facts={facts} />
    </View>
  );
}
