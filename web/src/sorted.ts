/** The index of the last item whose key is at most a value; -1 without any. Items
 * are in order of their keys. */
export function lastAt<T>(items: readonly T[], key: (item: T) => number, value: number): number {
  let low = 0;
  let high = items.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (key(items[middle]!) <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
