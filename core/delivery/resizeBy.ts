import { resizeSchema, type ResizeRule } from '../contract/delivery.ts';

/** What megapixels begin with, where a size was given in pixels before. */
const USUAL_MEGAPIXELS = 4;

/**
 * A resize by another rule. The number stays, unless it would be of another sort: pixels and megapixels
 * each begin with a usual one.
 *
 * @param now null: full size
 */
export function resizeBy(now: ResizeRule | null, rule: ResizeRule['rule']): ResizeRule {
  const usual = resizeSchema.parse({});
  const before = now ?? usual;
  const isMegapixels = rule === 'megapixels';
  const wasMegapixels = before.rule === 'megapixels';
  const first = isMegapixels ? USUAL_MEGAPIXELS : usual.px;
  const px = isMegapixels === wasMegapixels ? before.px : first;
  return { ...before, rule, px, px2: rule === 'within' ? px : null };
}
