import type { DeliveryRule } from '#core/contract/delivery';
import type { EarlierDelivery, Subfolder } from '#core/contract/http';
import type { useLibrary } from '../app/library.ts';
import { presetsText } from '../preset/presetsText.ts';
import {
  colourText,
  datesText,
  existingText,
  folderText,
  KIND_TEXTS,
  metadataText,
  sizeText,
  typeText,
} from './deliveryText.ts';
import { playingText, SHOW_MARK_TEXTS } from './showText.ts';
import { paperText, placesText, printText, sheetMarkText } from './sheetText.ts';

/** A delivery as a sentence, phrase by phrase. */

export type Phrase =
  | 'kind'
  | 'type'
  | 'size'
  | 'colour'
  | 'preset'
  | 'paper'
  | 'places'
  | 'marks'
  | 'playing'
  | 'shown'
  | 'print'
  | 'name'
  | 'folder'
  | 'existing'
  | 'metadata'
  | 'dates';

export interface SentencePart {
  readonly phrase: Phrase;
  readonly before: string;
  readonly text: string;
}

type Said = EarlierDelivery & { readonly subfolder?: Subfolder; readonly zip?: boolean };
type Library = ReturnType<typeof useLibrary>;

export function phrasesOf(said: Said, library: Library): readonly SentencePart[] {
  const { rule, presetId, overIds, folder, subfolder, zip } = said;
  const kind: SentencePart = { phrase: 'kind', before: '', text: KIND_TEXTS[rule.kind] };
  const preset: SentencePart = {
    ...{ phrase: 'preset', before: ', ' },
    text: markText(rule, [presetId, ...overIds], library),
  };
  const file: readonly SentencePart[] = [
    { phrase: 'name', before: ', named ', text: rule.name_pattern },
    { phrase: 'folder', before: ', into ', text: folderText(folder, subfolder, zip) },
    { phrase: 'existing', before: '; ', text: existingText(rule.existing, rule.kind) },
  ];
  if (rule.kind === 'sheet') return [kind, ...onPaper(rule, preset), ...file];
  if (rule.kind === 'show') return [kind, ...asShow(rule, preset), ...file];
  return [
    kind,
    { phrase: 'type', before: ': ', text: typeText(rule.file) },
    { phrase: 'size', before: ', ', text: sizeText(rule) },
    { phrase: 'colour', before: ', ', text: colourText(rule) },
    preset,
    ...file,
    { phrase: 'metadata', before: ', ', text: metadataText(rule.metadata) },
    { phrase: 'dates', before: ', ', text: datesText(rule.dates) },
  ];
}

function onPaper({ mark, sheet }: DeliveryRule, preset: SentencePart): readonly SentencePart[] {
  const where: SentencePart = { phrase: 'marks', before: ' ', text: sheetMarkText(sheet) };
  return [
    { phrase: 'paper', before: ': ', text: paperText(sheet) },
    { phrase: 'places', before: '; ', text: placesText(sheet) },
    preset,
    ...(mark ? [where] : []),
    { phrase: 'print', before: '; ', text: printText(sheet) },
  ];
}

function asShow(rule: DeliveryRule, preset: SentencePart): readonly SentencePart[] {
  const where = SHOW_MARK_TEXTS[rule.show.mark_on];
  return [
    { phrase: 'playing', before: ': ', text: playingText(rule.show) },
    { phrase: 'type', before: '; ', text: typeText(rule.file) },
    { phrase: 'size', before: ', ', text: sizeText(rule) },
    preset,
    ...(rule.mark ? [{ phrase: 'shown', before: ' ', text: where } as const] : []),
  ];
}

function markText(
  said: DeliveryRule,
  presetIds: readonly (number | null)[],
  library: Library,
): string {
  return said.mark ? `with ${presetsText(presetIds, library)}` : 'without a mark';
}

export function sentenceOf(delivery: EarlierDelivery, library: Library): string {
  const parts = phrasesOf(delivery, library).map(({ before, text }) => before + text);
  return `${delivery.name}: ${parts.join('')}.`;
}
