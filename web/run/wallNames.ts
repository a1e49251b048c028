import type { RunWish } from '#core/contract/http';

/** Names of the marks that the wall shows, the lowest first, as the plan of a run names those of a delivery. */
export function wallNames(wish: Pick<RunWish, 'presetName' | 'over'>): string {
  return [wish, ...wish.over].map(({ presetName }) => presetName).join(' + ');
}
