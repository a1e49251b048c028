/**
 * The middle value, or the mean of the two in the middle, found without putting all into order (Hoare's
 * selection, with the middle of three as pivot).
 *
 * @param values at least one, none of them NaN; their order is changed
 */
export function medianOf(values: Float64Array): number {
  const middle = values.length >> 1;
  const upper = selected(values, middle);
  if (values.length % 2 === 1) return upper;
  // Nothing before the middle is greater than it now.
  let lower = values[0];
  for (let at = 1; at < middle; at++) if (values[at] > lower) lower = values[at];
  return (lower + upper) / 2;
}

/** The value that has its place at `rank` in rising order, with none greater before it. */
function selected(values: Float64Array, rank: number): number {
  let left = 0;
  let right = values.length - 1;
  while (left < right) {
    const pivot = middleOfThree(values[left], values[(left + right) >> 1], values[right]);
    let low = left;
    let high = right;
    while (low <= high) {
      while (values[low] < pivot) low++;
      while (values[high] > pivot) high--;
      if (low > high) break;
      const value = values[low];
      values[low++] = values[high];
      values[high--] = value;
    }
    if (rank <= high) right = high;
    else if (rank >= low) left = low;
    else break;
  }
  return values[rank];
}

function middleOfThree(a: number, b: number, c: number): number {
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
}
