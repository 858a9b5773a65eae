import { lazy, Suspense, type ComponentType } from "react";
import { Screen } from "./Screen";
import { Body } from "./words";

/** A place whose code comes in a piece of its own: what only it needs is not fetched with the first page. */
export function lazyPlace(fetchPlace: () => Promise<ComponentType>): ComponentType {
  const Place = lazy(async () => ({ default: await fetchPlace() }));
  return function LazyPlace() {
    return (
      <Suspense
        fallback={
          <Screen>
            <Body role="status">One moment…</Body>
          </Screen>
        }
      >
        <Place />
      </Suspense>
    );
  };
}
