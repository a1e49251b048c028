import type { HandStroke } from '#core/contract/lift';

/** What the lifted ink can be looked at on. */
export type Ground = 'light' | 'dark' | 'photo' | 'coverage' | 'paper';
export const GROUNDS: readonly { value: Ground; label: string; title: string }[] = [
  { value: 'light', label: 'Light', title: 'Dark ink on a light ground' },
  { value: 'dark', label: 'Dark', title: 'Light ink on a dark ground' },
  { value: 'photo', label: 'Photo', title: 'Light ink on one of your photos' },
  { value: 'coverage', label: 'In grey', title: 'How much of each pixel the ink covers, in grey' },
  { value: 'paper', label: 'Over the paper', title: 'The outlines over the scan' },
];

/** What a hand on the ink does. */
export type Hand = 'look' | HandStroke['does'];
export const HANDS: readonly { value: Hand; label: string; title: string }[] = [
  { value: 'look', label: 'Look', title: 'Only looks; nothing is changed' },
  { value: 'rub', label: 'Rub out', title: 'Take ink away by hand' },
  { value: 'keep', label: 'Bring back', title: 'Bring back what was taken for a speck' },
];
