import { flag, group, instant, note, number, optional, reference, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { HAS_SCALE, WHICH_SCALE } from "../water/which-scale";

const SEEN = group("What was seen beside it", {
  "pressure-falls-running": optional(flag("The pressure falls while it runs")),
  "sediment-old": optional(flag("The sediment cartridge is old")),
  "carbon-old": optional(flag("The carbon cartridge is old")),
  "chlorine-behind-carbon": optional(flag("There is chlorine behind the carbon")),
  "membrane-old": optional(flag("The membrane is old")),
});
/** What was seen beside a membrane's figures: yes, no, or left out when nobody looked. */
export type SeenBeside = ValueOf<typeof SEEN>;

/** One look at a rig's membrane while it runs. */
export const MEMBRANE_CHECK = kind({
  name: "membrane-checks",
  table: "membrane_check",
  one: "membrane check",
  many: "membrane checks",
  fields: {
    rigId: reference("rigs", "The rig"),
    at: instant("The time of the check", { label: "When" }),
    ...WHICH_SCALE,
    /** Whatever was read is kept; a state follows where all that it needs is there. */
    feed: optional(number(RANGES.value, { called: "The feed" })),
    product: optional(number(RANGES.observed, { called: "The product" })),
    temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
    /** Before the membrane, running; and with the outlet shut. */
    pressure: optional(number(RANGES.pressure, { label: "Before it, running", quantity: "pressure" })),
    standingPressure: optional(number(RANGES.pressure, { label: "Before it, standing", quantity: "pressure" })),
    permeatePressure: optional(number(RANGES.pressure, { label: "Behind it, if any", quantity: "pressure" })),
    productFlow: optional(number(RANGES.flow, { called: "The product's flow", label: "Product", quantity: "flow" })),
    wasteFlow: optional(number(RANGES.flow, { called: "The waste's flow", label: "Waste", quantity: "flow" })),
    /** The baseline that later checks are held against. */
    clean: flag("New or just cleaned"),
    seen: optional(SEEN),
    note,
  },
  rules: [
    {
      ...HAS_SCALE,
      holds: (it) => (it.feed === undefined && it.product === undefined) || HAS_SCALE.holds(it),
    },
    {
      path: "feed",
      fault: "Keep at least one figure, or something that was seen.",
      holds: ({ feed, product, temperature, pressure, standingPressure, productFlow, wasteFlow, seen }) =>
        [feed, product, temperature, pressure, standingPressure, productFlow, wasteFlow, seen].some(
          (each) => each !== undefined,
        ),
    },
    {
      path: "product",
      fault: "The product reads above the feed: the two lines are swapped, or the readings are.",
      holds: ({ feed, product }) => feed === undefined || product === undefined || product <= feed,
    },
    {
      path: "pressure",
      fault: "Running, the pressure is never above that of standing water: the two are swapped.",
      holds: ({ pressure, standingPressure }) =>
        pressure === undefined || standingPressure === undefined || pressure <= standingPressure,
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    at: "2027-03-02T09:00:00.000Z",
    meterId: sampleId("meters"),
    scale: "ec",
    feed: 420,
    product: 17.5,
    temperature: 14,
    pressure: 380,
    standingPressure: 420,
    permeatePressure: 12,
    productFlow: 0.26,
    wasteFlow: 0.78,
    clean: true,
    seen: {
      "pressure-falls-running": false,
      "sediment-old": true,
      "carbon-old": true,
      "chlorine-behind-carbon": false,
      "membrane-old": true,
    },
    note: "After the new seals.",
  },
});

export interface MembraneCheck extends RecordOf<typeof MEMBRANE_CHECK> {}
