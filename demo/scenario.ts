import type { Adjustment } from '#core/contract/adjustment';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import { settingsSchema, type Settings } from '#core/contract/settings';

/** The made-up season on a northern coast, as data. */

export const SETTINGS: Settings = settingsSchema.parse({
  name: 'Ines Marlow',
  copyright: '© 2026 Ines Marlow, Quillon Bay Pictures',
  palette: [
    { name: 'Brass', colour: '#c9a25b' },
    { name: 'Bay blue', colour: '#17364a' },
  ],
});

/** How each mark comes in, by the same ways a photographer has. */
export const MARKS = [
  {
    key: 'signature',
    from: 'paper',
    file: 'signature-phone.jpg',
    // The sheet lay sideways before the photographer.
    turn: 90,
    name: 'Marlow signature',
  },
  { key: 'crest', from: 'file', file: 'crest-logo.svg', name: 'Quillon Bay crest' },
  { key: 'initials', from: 'pen', file: 'initials-pen.json', name: 'Marlow initials' },
  {
    key: 'boxed',
    from: 'file',
    file: 'crest-logo-white-box.jpg',
    name: 'Crest as the designer sent it',
  },
] as const;

export type MarkKey = (typeof MARKS)[number]['key'] | 'signed' | 'lockup' | 'seal' | 'number';

export interface DemoPreset {
  readonly name: string;
  readonly isFavourite?: true;
  readonly mark: MarkKey;
  readonly rule: PresetRule;
}

export const PRESETS: readonly DemoPreset[] = [
  {
    name: 'Signature, low right, light or dark',
    isFavourite: true,
    mark: 'signature',
    rule: presetRuleSchema.parse({
      size: { basis: 'long-side', value: 16 },
      anchor: 'bottom-right',
      fallbacks: ['bottom-left', 'top-left'],
      inset: { x: 3, y: 3 },
      opacity: 0.85,
      rescue: 'halo',
    }),
  },
  {
    name: 'Signature, low right, light',
    mark: 'signature',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'long-side', value: 16 },
      anchor: 'bottom-right',
      inset: { x: 3, y: 3 },
      opacity: 0.85,
    }),
  },
  {
    name: 'Crest, low left, brass',
    mark: 'crest',
    rule: presetRuleSchema.parse({
      tone: { tone: '#c9a25b' },
      size: { basis: 'area', value: 1.6 },
      anchor: 'bottom-left',
      inset: { x: 4, y: 4 },
      opacity: 0.9,
    }),
  },
  {
    name: 'Signature with year, low right, light',
    mark: 'signed',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'long-side', value: 15 },
      anchor: 'bottom-right',
      inset: { x: 3.5, y: 3.5 },
      opacity: 0.92,
    }),
  },
  {
    name: 'Lockup, low left, light',
    mark: 'lockup',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'area', value: 2.2 },
      anchor: 'bottom-left',
      inset: { x: 4, y: 4 },
      opacity: 0.95,
    }),
  },
  {
    name: 'Seal, large, pressed into the middle',
    mark: 'seal',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'short-side', value: 46 },
      anchor: 'centre',
      opacity: 0.75,
    }),
  },
  {
    // From the middle, so that it stays inside the square that feeds cut out of a photo of any shape.
    name: 'Signature, inside the square',
    mark: 'signature',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'short-side', value: 30 },
      anchor: 'centre',
      offset: { x: 31, y: 40 },
      opacity: 0.85,
    }),
  },
  {
    name: 'Signature all over, proofs',
    mark: 'signature',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'long-side', value: 15 },
      anchor: 'centre',
      rotation: -24,
      opacity: 0.22,
      repeat: { gapX: 70, gapY: 190, stagger: true, angle: -24 },
    }),
  },
  {
    name: 'Proof number, low right',
    mark: 'number',
    rule: presetRuleSchema.parse({
      tone: { tone: 'light' },
      size: { basis: 'long-side', value: 30 },
      anchor: 'bottom-right',
      opacity: 0.9,
    }),
  },
];

/** Presets that lie over each other, the lowest first. */
export const SETS = [
  { name: 'Numbered proofs', presets: ['Signature all over, proofs', 'Proof number, low right'] },
];

/** A folder that is watched, below the demo's own. */
export const INBOX = Object.freeze({
  name: 'From the studio computer',
  folder: 'inbox',
  preset: 'Crest, low left, brass',
  delivery: 'Square feed',
});

/** What was already set by hand in the large batch, by photo. */
export const ADJUSTED: Readonly<Record<string, Adjustment>> = {
  '0268': { anchor: 'bottom-left' },
  '0043': { opacity: 0.6, tone: { rule: 'fixed', tone: 'dark' } },
  '0057': { size: { basis: 'long-side', value: 11 } },
};

interface DemoBatch {
  readonly name: string;
  readonly preset: string;
  readonly delivery: string;
  /** Numbers of the photos, or all of them. */
  readonly photos: readonly string[] | 'all';
}

export const BATCHES: readonly DemoBatch[] = [
  {
    name: 'Harbour after dark',
    preset: 'Signature, low right, light',
    delivery: 'Web gallery',
    photos: ['0017', '0121', '0164', '0203', '0219', '0338'],
  },
  {
    name: 'Breakwater mornings',
    preset: 'Signature, low right, light',
    delivery: 'Web gallery',
    photos: 'all',
  },
];

/** The run that is finished when the demo starts. */
export const FINISHED_RUN = { batch: 'Harbour after dark', delivery: 'Web gallery' } as const;
