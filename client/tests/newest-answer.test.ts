import { act, renderHook } from "@testing-library/react";
import { useNewestAnswer } from "../data/newest-answer";

interface Question {
  readonly jobs: number;
}

/** A worker that answers when it is let go, one question at a time. */
function slowWorker() {
  const waiting: (() => void)[] = [];
  return {
    ask: (question: Question) => new Promise<number>((done) => waiting.push(() => done(10 * question.jobs))),
    letGo: () => act(async () => waiting.shift()?.()),
  };
}

test("an older answer comes with the question that it answers, until the newer one is here", async () => {
  const worker = slowWorker();
  const { result, rerender } = renderHook(({ jobs }) => useNewestAnswer<Question, number>({ jobs }, worker.ask), {
    initialProps: { jobs: 1 },
  });
  expect(result.current).toEqual({ answer: undefined, answered: undefined, working: true });
  await worker.letGo();
  expect(result.current).toEqual({ answer: 10, answered: { jobs: 1 }, working: false });
  rerender({ jobs: 2 });
  expect(result.current).toEqual({ answer: 10, answered: { jobs: 1 }, working: true });
  rerender({ jobs: 3 });
  await worker.letGo();
  expect(result.current).toMatchObject({ answered: { jobs: 2 }, working: true });
  await worker.letGo();
  expect(result.current).toEqual({ answer: 30, answered: { jobs: 3 }, working: false });
});

test("without a question there is no answer", () => {
  const { result } = renderHook(() => useNewestAnswer<Question, number>(undefined, slowWorker().ask));
  expect(result.current).toEqual({ answer: undefined, answered: undefined, working: false });
});

test("large questions are the same where they are the same object, whatever stands in them", async () => {
  const worker = slowWorker();
  const itself = (question: Question) => question;
  const first = { jobs: 1 };
  const { result, rerender } = renderHook(({ asked }) => useNewestAnswer(asked, worker.ask, itself), {
    initialProps: { asked: first },
  });
  await worker.letGo();
  rerender({ asked: first });
  expect(result.current.working).toBe(false);
  rerender({ asked: { jobs: 1 } });
  expect(result.current).toMatchObject({ answer: 10, working: true });
});
