import { FEED_TEST } from "../feed/feed-test.record";
import { SITE } from "../feed/site.record";
import { TAP } from "../feed/tap.record";
import { MEMBRANE_CHECK } from "../membrane/membrane-check.record";
import { DAY_OFF } from "../work/day-off.record";
import { BOOKING } from "../work/booking.record";
import { USUAL_WEEK } from "../work/usual-week.record";
import { BAG } from "../stock/bag.record";
import { DISPOSAL } from "../stock/disposal.record";
import { PRESSURE_CHECK } from "../upkeep/pressure-check.record";
import { SERVICE } from "../upkeep/service.record";
import { REFILL_STEP } from "../refill/refill-step.record";
import { APPOINTMENT } from "../weeks/appointment.record";
import { REMINDER } from "../weeks/reminder.record";
import { PLAN } from "../plan/plan.record";
import { PRICE_LIST } from "../plan/price-list.record";
import { CHARGE } from "../resin/charge.record";
import { ARRANGEMENT } from "../rig/arrangement.record";
import { RIG } from "../rig/rig.record";
import { VISIT } from "../rig/visit.record";
import { VESSEL } from "../vessel/vessel.record";
import { METER } from "../water/meter.record";
import { WATER_REPORT } from "../water/water-report.record";
import type { RecordOf } from "../descriptor/kind";

/** Every kind of record by its name, each after those that it refers to. */
export const KINDS = {
  sites: SITE,
  taps: TAP,
  meters: METER,
  vessels: VESSEL,
  rigs: RIG,
  arrangements: ARRANGEMENT,
  bags: BAG,
  charges: CHARGE,
  visits: VISIT,
  "feed-tests": FEED_TEST,
  "water-reports": WATER_REPORT,
  "membrane-checks": MEMBRANE_CHECK,
  plans: PLAN,
  "price-lists": PRICE_LIST,
  bookings: BOOKING,
  "usual-weeks": USUAL_WEEK,
  "days-off": DAY_OFF,
  disposals: DISPOSAL,
  services: SERVICE,
  "pressure-checks": PRESSURE_CHECK,
  "refill-steps": REFILL_STEP,
  appointments: APPOINTMENT,
  reminders: REMINDER,
} as const;

export type RecordKind = keyof typeof KINDS;
export const RECORD_KINDS = Object.keys(KINDS) as RecordKind[];

/** The record of each kind. */
export type RecordTypes = { [K in RecordKind]: RecordOf<(typeof KINDS)[K]> };
