import type { WeeksAhead } from "@winter-bead/core";
import { csvOf } from "../../ui/csv";

/** What to order, one row a grade, form and delivery: litres, the latest day, and the refills it is for. */
export const ordersCsv = ({ orders }: Pick<WeeksAhead, "orders">): string =>
  csvOf(
    orders.flatMap(({ by, lines }, i) =>
      lines.map((line) => ({
        delivery: i + 1,
        "order by": by,
        resin: line.grade,
        as: line.form === "cartridge" ? "ready-filled cartridges" : "loose",
        "litres, L": Number(line.litres.toFixed(2)),
        "for refills on": line.for.map(({ on }) => on).join(" "),
      })),
    ),
  );
