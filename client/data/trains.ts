import { asOfNow, Trains, type Arrangement } from "@winter-bead/core";
import { useNow } from "./present";
import { useMemo } from "react";
import { useRecords } from "./store";

let last: { readonly of: readonly Arrangement[]; readonly trains: Trains } | undefined;

/** Who stood where when, as this device knows it; the same for every place as long as nothing in it changes. */
export function trainsOf(arrangements: readonly Arrangement[]): Trains {
  if (last?.of !== arrangements) last = { of: arrangements, trains: new Trains(arrangements) };
  return last.trains;
}

/** What is dated ahead by up to a day stands now. */
export function useTrains(): Trains {
  const { records } = useRecords("arrangements");
  const now = useNow();
  return trainsOf(useMemo(() => asOfNow(records, now), [records, now]));
}
