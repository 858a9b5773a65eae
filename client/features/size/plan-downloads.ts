import type { Plan } from "@winter-bead/core";
import { download } from "../../ui/files";
import { showToast } from "../../ui/toast";
import type { PlanContext } from "./plan-files";
import { onDemand } from "../on-demand-piece";

const fileName = (plan: Plan, ending: string) =>
  `${
    plan.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "") || "plan"
  }.${ending}`;

/** The files that a plan can be taken away as; what makes them is fetched when one is asked for. */
export function planFiles(plan: Plan, context: PlanContext) {
  const asked = async (make: () => Promise<void>) => {
    try {
      await make();
    } catch {
      showToast({ words: "The file could not be made just now; with a signal try again." });
    }
  };
  return {
    pdf: () =>
      asked(async () => {
        const { planPdf } = await onDemand();
        download(fileName(plan, "pdf"), await planPdf(plan, context), "application/pdf");
      }),
    csv: () =>
      asked(async () => {
        const { planCsv } = await onDemand();
        download(fileName(plan, "csv"), planCsv(plan, context), "text/csv");
      }),
    json: () =>
      asked(async () => {
        const { planJson } = await onDemand();
        download(fileName(plan, "json"), planJson(plan, context), "application/json");
      }),
  };
}
