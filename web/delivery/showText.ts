import type { ShowRule } from '#core/contract/show';

/** What a delivery says that makes a show, in words. */

export const SHOW_CHANGE_TEXTS = {
  fade: 'fading into the next',
  cut: 'then the next at once',
} as const;

export const SHOW_MARK_TEXTS = {
  photo: 'on each photo',
  screen: 'still on the screen',
} as const;

export function playingText({ seconds, change, loop, title, caption }: ShowRule): string {
  const parts = [`each for ${seconds} s, ${SHOW_CHANGE_TEXTS[change]}`];
  if (loop) parts.push('over and over');
  if (title !== null) parts.push(title === '' ? 'a card with the mark first' : `“${title}” first`);
  if (caption !== null) parts.push('with a line under each');
  return parts.join(', ');
}
