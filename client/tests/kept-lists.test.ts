import { dehydrate, hydrate, QueryClient } from "@tanstack/react-query";
import { askedAgain } from "../data/kept-lists";
import { keyOf } from "../data/list-key";

const HOUR = 3_600_000;
const queryKey = keyOf("rigs");

/** Lists as one window keeps them, dated by its clock. */
function keptAt(updatedAt: number) {
  const before = new QueryClient();
  before.setQueryData(queryKey, [{ id: "a" }], { updatedAt });
  return { timestamp: updatedAt, buster: "1", clientState: dehydrate(before) };
}

test.each([
  ["an hour ago", -HOUR],
  ["just now", 0],
  ["by a clock that has since been put back", 3 * HOUR],
])("a list kept %s is shown, and asked for", async (_when, ahead) => {
  const here = new QueryClient();
  hydrate(here, askedAgain(keptAt(Date.now() + ahead)).clientState);
  expect(here.getQueryData(queryKey)).toEqual([{ id: "a" }]);
  await here.prefetchQuery({ queryKey, queryFn: () => [{ id: "b" }], staleTime: 0 });
  expect(here.getQueryData(queryKey)).toEqual([{ id: "b" }]);
  here.clear();
});
