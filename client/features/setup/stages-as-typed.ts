import type { Id, Place, Stage } from "@winter-bead/core";
import { USUAL_REJECTION } from "@winter-bead/core/src/start";
import { internalNumber, numberText, shownNumber } from "../../forms/texts";
import { typedNumber, type Units } from "../../ui/format";

export type StageKind = Stage["kind"];

/** Who stands in a place of a train that is being typed: a vessel, none, or a new one like the rig's own. */
export const NO_VESSEL = "none";
export const NEW_VESSEL = "new";

/** A stage as it is typed: its figures as texts, so that half a number is not lost. */
export interface TypedStage {
  readonly id: Id;
  readonly kind: StageKind;
  readonly microns?: string;
  readonly chlorineGrams?: string;
  readonly rejection?: string;
  readonly ratedFlow?: string;
  readonly hours?: string;
  /** Of a second membrane: what feeds it. */
  readonly fedBy?: FedBy;
  /** Of a resin stage: the id of who stands there, or one of the two words above. */
  readonly vessel?: string;
}

type FedBy = NonNullable<Extract<Stage, { readonly kind: "membrane" }>["fedBy"]>;

/** What may feed a membrane that stands behind another. */
export const FED_BY: readonly { readonly value: FedBy; readonly label: string }[] = [
  { value: "product", label: "Product of the one before: purer" },
  { value: "reject", label: "What the one before wastes: more water" },
];

export type StageFigure = "microns" | "chlorineGrams" | "rejection" | "ratedFlow" | "hours";

/** Figures of each kind of stage, in their order. */
export const FIGURES: Readonly<Record<StageKind, readonly StageFigure[]>> = {
  sediment: ["microns"],
  carbon: ["microns", "chlorineGrams"],
  degasser: ["hours"],
  membrane: ["rejection", "ratedFlow"],
  resin: [],
};

const QUANTITIES = { rejection: "share", ratedFlow: "flow" } as const;
const quantityOf = (figure: StageFigure) =>
  figure in QUANTITIES ? QUANTITIES[figure as keyof typeof QUANTITIES] : undefined;

const textOf = (figure: StageFigure, value: number | undefined, units: Units) =>
  value === undefined ? "" : numberText(shownNumber(quantityOf(figure), value, units));

const figureOf = (stage: Stage, figure: StageFigure) =>
  (stage as unknown as Readonly<Partial<Record<StageFigure, number>>>)[figure];

/** A kept train as texts. */
export const typedStages = (stages: readonly Stage[], places: readonly Place[], units: Units): readonly TypedStage[] =>
  stages.map((stage) => {
    const { id, kind } = stage;
    const figures = Object.fromEntries(
      FIGURES[kind].map((figure) => [figure, textOf(figure, figureOf(stage, figure), units)]),
    );
    const fedBy = kind === "membrane" && stage.fedBy ? { fedBy: stage.fedBy } : {};
    if (kind !== "resin") return { id, kind, ...figures, ...fedBy };
    return { id, kind, vessel: places.find(({ stageId }) => stageId === id)?.vesselId ?? NO_VESSEL };
  });

/** A new stage with what is usual. */
export const newStage = (kind: StageKind, id: Id, units: Units): TypedStage => ({
  ...{ id, kind },
  ...(kind === "membrane" ? { rejection: textOf("rejection", USUAL_REJECTION, units) } : {}),
  ...(kind === "resin" ? { vessel: NEW_VESSEL } : {}),
});

/** What stands before the resin of a rig that is begun. */
export type Before = "none" | "filters" | "membrane";
const BEFORE: Readonly<Record<Before, readonly StageKind[]>> = {
  none: [],
  filters: ["sediment", "carbon"],
  membrane: ["sediment", "carbon", "membrane"],
};

/** The stages of a new rig by one choice; resin stages that are there stay as they are. */
export const begunWith = (
  before: Before,
  known: readonly TypedStage[],
  newId: () => Id,
  units: Units,
): readonly TypedStage[] => [
  ...BEFORE[before].map((kind) => known.find((each) => each.kind === kind) ?? newStage(kind, newId(), units)),
  ...known.filter(({ kind }) => kind === "resin"),
];

/** The stages that texts stand for; a figure that was not touched stays exactly as it was. */
export const stagesFrom = (typed: readonly TypedStage[], known: readonly Stage[], units: Units): readonly Stage[] =>
  typed.map((each) => {
    const before = known.find(({ id, kind }) => id === each.id && kind === each.kind);
    const figures = FIGURES[each.kind].flatMap((figure): [string, number][] => {
      const text = (each[figure] ?? "").trim();
      const was = before && figureOf(before, figure);
      if (was !== undefined && text === textOf(figure, was, units)) return [[figure, was]];
      return text === "" ? [] : [[figure, internalNumber(quantityOf(figure), typedNumber(text) ?? NaN, units)]];
    });
    // A membrane holds something back: left empty it is asked for.
    const asked = each.kind === "membrane" ? { rejection: NaN } : {};
    const fedBy = each.kind === "membrane" && each.fedBy ? { fedBy: each.fedBy } : {};
    return { id: each.id, kind: each.kind, ...asked, ...Object.fromEntries(figures), ...fedBy } as Stage;
  });

/** Who stands where as it is typed. @param made the ids of the vessels that are new, by stage */
export const placesFrom = (typed: readonly TypedStage[], made: ReadonlyMap<Id, Id>): readonly Place[] =>
  typed
    .filter(({ kind }) => kind === "resin")
    .map(({ id, vessel = NO_VESSEL }) => {
      const vesselId = vessel === NEW_VESSEL ? made.get(id) : vessel === NO_VESSEL ? undefined : vessel;
      return vesselId === undefined ? { stageId: id } : { stageId: id, vesselId };
    });

/** A list of stages kept as one text of the form. */
export const stagesText = (typed: readonly TypedStage[]): string => JSON.stringify(typed);

export function stagesOfText(text: unknown): readonly TypedStage[] {
  try {
    const typed: unknown = JSON.parse(String(text));
    return Array.isArray(typed) ? (typed as readonly TypedStage[]) : [];
  } catch {
    return [];
  }
}
