import { wrap, type Remote } from "comlink";
import { useNewestAnswer } from "../../data/newest-answer";
import type { GallonsQuestion } from "./gallons";
import { tellsUnseen, type LivesRange } from "./lives";
import type { PlanWorker } from "./plan.worker";

let remote: Remote<PlanWorker> | undefined;

/** The planner's worker; started when it is first asked. */
export function planWorker(): Remote<PlanWorker> {
  remote ??= wrap<PlanWorker>(new Worker(new URL("./plan.worker", window.location.href)));
  return remote;
}

const askLives = (question: GallonsQuestion): Promise<LivesRange | undefined> => planWorker().answerLives(question);

/** The two lives of the question as it stands. */
export function useLives(question: GallonsQuestion | undefined) {
  const { answer, working } = useNewestAnswer(question && tellsUnseen(question) ? question : undefined, askLives);
  return { lives: answer, working };
}
