import { Trains, type Arrangement } from "@winter-bead/core";
import { useRecords } from "./store";

let last: { readonly of: readonly Arrangement[]; readonly trains: Trains } | undefined;

/** Who stood where when, as this device knows it; the same for every place as long as nothing in it changes. */
export function trainsOf(arrangements: readonly Arrangement[]): Trains {
  if (last?.of !== arrangements) last = { of: arrangements, trains: new Trains(arrangements) };
  return last.trains;
}

export const useTrains = (): Trains => trainsOf(useRecords("arrangements").records);
