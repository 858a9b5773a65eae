import { flag, instant, note, number, optional, reference } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { HAS_SCALE, WHICH_SCALE } from "../water/which-scale";

/** A reading of the feed taken for itself, not as part of a visit. */
export const FEED_TEST = kind({
  name: "feed-tests",
  table: "feed_test",
  one: "feed test",
  many: "feed tests",
  fields: {
    tapId: reference("taps", "The tap"),
    at: instant("The time of the test", { label: "When" }),
    ...WHICH_SCALE,
    value: number(RANGES.value, { label: "Reading" }),
    temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
    confirmed: optional(flag("Looked at again and right, however far it is from usual")),
    note,
  },
  rules: [HAS_SCALE],
  sample: {
    tapId: sampleId("taps"),
    at: "2027-03-02T08:10:00.250Z",
    meterId: sampleId("meters"),
    scale: "442",
    value: 171.5,
    temperature: 11,
    confirmed: true,
    note: "After a dry week.",
  },
});

export interface FeedTest extends RecordOf<typeof FEED_TEST> {}
