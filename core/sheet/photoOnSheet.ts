import type { DeliveryRule } from '../contract/delivery.ts';
import type { Box, Size } from '../placement/geometry.ts';
import type { Result } from '../result.ts';
import { success } from '../result.ts';
import { planSheet, photosASheet, type PlannedSheet, type SheetPhoto } from './planSheets.ts';

/** How a photo is made ready for its place on paper. */
export interface PreparedPart {
  /** The part of the photo that is printed, bleed included, in shares of the photo. */
  readonly part: Box;
  /** What is left of that when the sheet is trimmed, in shares of the part. */
  readonly trim: Box;
}

export const MM_AN_INCH = 25.4;

/** A photo as it is known before sheets are made. */
export interface GivenPhoto {
  /** Upright. */
  readonly size: Size;
  /** It was made ready; one that was not keeps its place, which stays empty. */
  readonly isThere: boolean;
}

/** Sheets of photos in their order; those on which there is none are left out. */
export function sheetsWithPhotos(
  rule: DeliveryRule['sheet'],
  photos: readonly GivenPhoto[],
): Result<PlannedSheet[]> {
  const each = photosASheet(rule);
  const sheets: PlannedSheet[] = [];
  for (let first = 0; first < photos.length; first += each) {
    const some = photos.slice(first, first + each);
    if (!some.some(({ isThere }) => isThere)) continue;
    const sheet = planSheet(
      rule,
      some.map(({ size }) => size),
      first,
    );
    if (!sheet.ok) return sheet;
    sheets.push(sheet.value);
  }
  return success(sheets);
}

/**
 * The place of one photo; those beside it count only where sheets lie as their first photo does.
 *
 * @param index place among all photos
 * @param leader upright size of the first photo on its sheet
 */
export function placeOnSheet(
  rule: DeliveryRule['sheet'],
  photo: Size,
  index: number,
  leader: Size,
): Result<PreparedPart & Pick<SheetPhoto, 'box'>> {
  const at = index % photosASheet(rule);
  const planned = planSheet(rule, [leader, ...Array<Size>(at).fill(photo)]);
  if (!planned.ok) return planned;
  const { photos, size } = planned.value;
  const { box, part } = photos[at];
  return success({ box, part, trim: trimOf(box, size) });
}

/** What is left of a box when the sheet is trimmed, in shares of the box. */
export function trimOf(box: Box, sheet: Size): Box {
  const left = Math.max(0, -box.x);
  const top = Math.max(0, -box.y);
  const right = Math.max(0, box.x + box.width - sheet.width);
  const bottom = Math.max(0, box.y + box.height - sheet.height);
  return {
    x: left / box.width,
    y: top / box.height,
    width: (box.width - left - right) / box.width,
    height: (box.height - top - bottom) / box.height,
  };
}

/** The rule by which a photo is written for its place: whole, as large as the print takes it, never enlarged. */
function preparedRule(rule: DeliveryRule, { box, part }: Pick<SheetPhoto, 'box' | 'part'>) {
  const pixels = (mm: number, share: number): number =>
    Math.max(1, Math.ceil(((mm / share) * rule.sheet.dpi) / MM_AN_INCH));
  const px = pixels(box.width, part.width);
  const px2 = pixels(box.height, part.height);
  return {
    ...rule,
    resize: { rule: 'within', px, px2, enlarge: false },
    colour: 'srgb',
    metadata: {
      ...rule.metadata,
      keep: 'none',
      artist: null,
      copyright: null,
      usage: null,
      rights_url: null,
    },
    dpi: null,
    mark: rule.mark && rule.sheet.mark_on !== 'margin',
  } as const satisfies DeliveryRule;
}

/** How a photo is made ready for a delivery to paper. @param leader size of the first photo on its sheet */
export function preparation(
  rule: DeliveryRule,
  photo: Size,
  index: number,
  leader: Size,
): Result<{ readonly rule: DeliveryRule; readonly prepared: PreparedPart }> {
  const place = placeOnSheet(rule.sheet, photo, index, leader);
  if (!place.ok) return place;
  const { part, trim } = place.value;
  return success({ rule: preparedRule(rule, place.value), prepared: { part, trim } });
}
