import type { ResizeRule } from '../contract/delivery.ts';
import { scaled, type Size } from '../placement/geometry.ts';

const PIXELS_PER_MEGAPIXEL = 1_000_000;

/**
 * The output frame of an upright photo under a resize rule; `null` keeps the size.
 * Whole pixels, rounded, at least 1 a side; proportions are kept.
 */
export function resizeFrame(photo: Size, rule: ResizeRule | null): Size {
  if (rule === null) return { width: photo.width, height: photo.height };
  const wanted = scaleFor(photo, rule);
  const frame = scaled(photo, rule.enlarge ? wanted : Math.min(1, wanted));
  return {
    width: Math.max(1, Math.round(frame.width)),
    height: Math.max(1, Math.round(frame.height)),
  };
}

function scaleFor(photo: Size, rule: ResizeRule): number {
  switch (rule.rule) {
    case 'long-side':
      return rule.px / Math.max(photo.width, photo.height);
    case 'short-side':
      return rule.px / Math.min(photo.width, photo.height);
    case 'width':
      return rule.px / photo.width;
    case 'height':
      return rule.px / photo.height;
    case 'within':
      return Math.min(rule.px / photo.width, (rule.px2 ?? rule.px) / photo.height);
    case 'megapixels':
      return Math.sqrt((rule.px * PIXELS_PER_MEGAPIXEL) / (photo.width * photo.height));
    default:
      throw new Error(`Unknown resize rule ${rule.rule satisfies never}`);
  }
}
