/**
 * The marks of a bench, the lowest first.
 *
 * @param hand the one that is shaped
 * @param at where it stands among the others
 */
export function inOrder<T>(hand: T, others: readonly T[], at: number): T[] {
  return [...others.slice(0, at), hand, ...others.slice(at)];
}
