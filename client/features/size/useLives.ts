import { useNewestAnswer } from "../../data/newest-answer";
import { WorkerLine } from "../../data/worker-line";
import type { LitresQuestion } from "./litres";
import { tellsUnseen, type LivesRange } from "./lives";
import type { PlanWorker } from "./plan.worker";

/** The planner's worker. */
export const planner = new WorkerLine<PlanWorker>(() => new Worker(new URL("./plan.worker", window.location.href)));

const askLives = (question: LitresQuestion): Promise<LivesRange | undefined> =>
  planner.run((worker) => worker.answerLives(question));

/** The two lives of the question as it stands. */
export function useLives(question: LitresQuestion | undefined) {
  const { answer, working } = useNewestAnswer(question && tellsUnseen(question) ? question : undefined, askLives);
  return { lives: answer, working };
}
