import type { FinishKind } from '#core/contract/finish';

/** Finishes in words. */
export const FINISH_LABELS: Readonly<Record<FinishKind, string>> = Object.freeze({
  outline: 'Outline',
  glow: 'Glow',
  shadow: 'Shadow',
  bevel: 'Bevel',
  fill: 'See-through fill',
  plate: 'Plate',
  crispness: 'Crispness',
});

/** What each is for, where it is set. */
export const FINISH_PURPOSES: Readonly<Record<FinishKind, string>> = Object.freeze({
  outline: 'A line round the ink; in a contrasting colour it carries the mark over any photo.',
  glow: 'Soft light round the ink, never on it.',
  shadow: 'Lifts the ink off the photo.',
  bevel: 'Light and shade on the edges, as if cut or pressed.',
  fill: 'Lets the photo through the ink, while finishes stay.',
  plate: 'A surface behind, for busy photos.',
  crispness: 'Sharpens the whole mark after it was scaled for a photo.',
});
