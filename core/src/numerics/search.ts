/**
 * The first place from which something holds, where it holds for all places behind it too; their number where for none.
 * @example firstFrom(4, (i) => [1, 3, 5, 7][i]! >= 4) // 2
 */
export function firstFrom(count: number, holds: (place: number) => boolean): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
