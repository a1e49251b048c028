import {
  UNTOUCHED,
  type DeliveryKind,
  type DeliveryRule,
  type FileRule,
  type MetadataRule,
  type ResizeRule,
} from '#core/contract/delivery';
import type { Subfolder } from '#core/contract/http';
import { shortSheet } from './sheetText.ts';
import { bytesText } from '../ui/format.ts';

/** A rule in words. */

/** What becomes of a photo that gets smaller, and its tag for printers; empty where neither is asked for. */
function finishText({ resize, sharpen, dpi }: DeliveryRule): string {
  const parts = [
    resize && sharpen !== 'none' ? SHARPEN_TEXTS[sharpen] : '',
    dpi === null ? '' : `tagged ${dpi} dpi`,
  ];
  return parts.filter(Boolean).join(', ');
}

/** How large the files are, with what comes with that. */
export function sizeText(rule: DeliveryRule): string {
  return [resizeText(rule.resize), finishText(rule)].filter(Boolean).join(', ');
}

export const SHARPEN_TEXTS = {
  none: 'not sharpened',
  low: 'sharpened a little',
  standard: 'sharpened',
  high: 'sharpened strongly',
} as const;

export const COLOUR_TEXTS = { srgb: 'sRGB', photo: 'the photo’s own colours' } as const;

export function colourText({ colour, file }: DeliveryRule): string {
  return file.quality === UNTOUCHED ? COLOUR_TEXTS.photo : COLOUR_TEXTS[colour];
}

const TYPE_NAMES = { jpeg: 'JPEG', png: 'PNG', webp: 'WebP', avif: 'AVIF', tiff: 'TIFF' } as const;

export function typeText(file: FileRule): string {
  if (file.quality === UNTOUCHED) return 'JPEG, untouched but for the mark';
  const isWithin = file.type === 'jpeg' || file.type === 'webp';
  if (isWithin && file.max_bytes !== null)
    return `${TYPE_NAMES[file.type]} of at most ${bytesText(file.max_bytes)}`;
  const hasQuality = file.type !== 'png' && file.type !== 'tiff';
  return hasQuality ? `${TYPE_NAMES[file.type]} of quality ${file.quality}` : TYPE_NAMES[file.type];
}

export function resizeText(resize: ResizeRule | null): string {
  if (!resize) return 'full size';
  switch (resize.rule) {
    case 'long-side':
      return `${resize.px} px on the long side`;
    case 'short-side':
      return `${resize.px} px on the short side`;
    case 'width':
      return `${resize.px} px wide`;
    case 'height':
      return `${resize.px} px high`;
    case 'within':
      return `within ${resize.px} × ${resize.px2 ?? resize.px} px`;
    case 'megapixels':
      return `${resize.px} megapixels`;
    default:
      throw new Error(`Unknown resize rule ${resize.rule satisfies never}`);
  }
}

export const KIND_TEXTS: Readonly<Record<DeliveryKind, string>> = {
  files: 'a file of each photo',
  sheet: 'photos on paper',
  show: 'a show of all photos',
};

export function existingText(
  existing: DeliveryRule['existing'],
  kind: DeliveryKind = 'files',
): string {
  switch (existing) {
    case 'number':
      return 'keeps both where a name is taken';
    case 'replace':
      return 'replaces a file of that name';
    case 'skip':
      return kind === 'files'
        ? 'skips a photo whose name is taken'
        : 'makes none where its name is taken';
    default:
      throw new Error(`Unknown rule ${existing satisfies never}`);
  }
}

export function metadataText(rule: MetadataRule): string {
  return [keptText(rule), rightsText(rule)].filter(Boolean).join(', ');
}

function rightsText({ artist, copyright, usage, rights_url }: MetadataRule): string {
  if (artist === null && copyright === null && usage === null && rights_url === null) return '';
  return `signed ${copyright ?? artist ?? 'with usage terms'}`;
}

export function keptText({ keep, location }: Pick<MetadataRule, 'keep' | 'location'>): string {
  if (keep === 'none') return 'without metadata';
  if (keep === 'copyright') return 'with its copyright only';
  return location === 'keep'
    ? 'with all its metadata and the place it was taken'
    : 'with its metadata, but not the place it was taken';
}

export const SUBFOLDER_TEXTS: Readonly<Record<Subfolder, string>> = {
  none: 'right into it',
  batch: 'a folder of the batch’s name in it',
  date: 'a folder of the day in it',
};

export function folderText(
  folder: string | null,
  subfolder: Subfolder = 'none',
  zip = false,
): string {
  const inZip = zip ? ', downloaded as a ZIP' : '';
  if (folder === null) return `a folder of the batch’s name${inZip}`;
  return (subfolder === 'none' ? folder : `${folder}, ${SUBFOLDER_TEXTS[subfolder]}`) + inZip;
}

export function datesText(dates: DeliveryRule['dates']): string {
  return dates === 'photo' ? 'dated like the photo' : 'dated today';
}

export function shortDelivery(rule: DeliveryRule): string {
  if (rule.kind === 'sheet') return shortSheet(rule.sheet);
  if (rule.kind === 'show') return `show, ${rule.show.seconds} s each`;
  const size = rule.resize
    ? rule.resize.rule === 'megapixels'
      ? `${rule.resize.px} MP`
      : `${rule.resize.px} px`
    : 'full size';
  return `${TYPE_NAMES[rule.file.type]}, ${size}`;
}

export { TYPE_NAMES };
