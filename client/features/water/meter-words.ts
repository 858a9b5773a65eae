import { checkMeter, type Meter } from "@winter-bead/core";
import { dayOf, percent } from "../../ui/format";

/** A meter's error in words, from its last check. */
export function checkWords(meter: Meter): string {
  if (!meter.check) return meter.checkedOn ? `checked ${dayOf(meter.checkedOn)}` : "never checked against a standard";
  const { standard, shown } = meter.check;
  const checked = checkMeter({ scale: meter.scale, standardEc25: standard, shown, offset: meter.offset });
  if (!checked.ok) return meter.checkedOn ? `checked ${dayOf(meter.checkedOn)}` : "checked";
  const { error, good } = checked.value;
  const by = percent(Math.abs(error));
  return `${meter.checkedOn ? `checked ${dayOf(meter.checkedOn)}: ` : ""}${by} % ${error >= 0 ? "high" : "low"}, ${good ? "good" : "more than a good meter should be"}`;
}
