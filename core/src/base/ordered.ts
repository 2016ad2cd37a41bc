/** Looking things up in lists that are in order. */

/** The first index below `count` that passes a test which all later ones pass as well; `count` where none does. */
export function firstIndex(count: number, test: (index: number) => boolean): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (test(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
