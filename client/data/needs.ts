import type { RecordKind } from "@winter-bead/contract";

/** What a place speaks of: opened with half of these on the device, it would say what is not so. */
export const RACK_NEEDS: readonly RecordKind[] = [
  "rigs",
  "arrangements",
  "vessels",
  "taps",
  "meters",
  "charges",
  "visits",
  "water-reports",
  "price-lists",
];
export const WATER_NEEDS: readonly RecordKind[] = [
  "sites",
  "taps",
  "meters",
  "rigs",
  "visits",
  "feed-tests",
  "water-reports",
  "membrane-checks",
];
export const WEEKS_NEEDS: readonly RecordKind[] = [
  ...RACK_NEEDS,
  "feed-tests",
  "membrane-checks",
  "bags",
  "bookings",
  "usual-weeks",
  "days-off",
  "disposals",
  "services",
  "pressure-checks",
  "appointments",
];
export const REFILL_NEEDS: readonly RecordKind[] = [...WEEKS_NEEDS, "refill-steps"];
export const SIZE_NEEDS: readonly RecordKind[] = [
  "taps",
  "meters",
  "vessels",
  "rigs",
  "arrangements",
  "charges",
  "visits",
  "feed-tests",
  "water-reports",
  "price-lists",
  "plans",
];
export const SETUP_NEEDS: readonly RecordKind[] = [
  "sites",
  "taps",
  "meters",
  "vessels",
  "rigs",
  "arrangements",
  "charges",
];
