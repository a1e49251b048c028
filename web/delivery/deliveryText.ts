import type { DeliveryRule, FileRule, MetadataRule, ResizeRule } from '#core/contract/delivery';

/** A rule in words. */

const TYPE_NAMES = { jpeg: 'JPEG', png: 'PNG', webp: 'WebP', avif: 'AVIF', tiff: 'TIFF' } as const;

export function typeText(file: FileRule): string {
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

export function existingText(existing: DeliveryRule['existing']): string {
  switch (existing) {
    case 'number':
      return 'keeps both where a name is taken';
    case 'replace':
      return 'replaces a file of that name';
    case 'skip':
      return 'skips a photo whose name is taken';
    default:
      throw new Error(`Unknown rule ${existing satisfies never}`);
  }
}

export function metadataText({ keep, location }: MetadataRule): string {
  if (keep === 'none') return 'without metadata';
  return location === 'keep'
    ? 'with all its metadata and the place it was taken'
    : 'with its metadata, but not the place it was taken';
}

export function datesText(dates: DeliveryRule['dates']): string {
  return dates === 'photo' ? 'dated like the photo' : 'dated today';
}

export function shortDelivery(rule: DeliveryRule): string {
  const size = rule.resize
    ? rule.resize.rule === 'megapixels'
      ? `${rule.resize.px} MP`
      : `${rule.resize.px} px`
    : 'full size';
  return `${TYPE_NAMES[rule.file.type]}, ${size}`;
}

export { TYPE_NAMES };
