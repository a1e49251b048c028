import { UNTOUCHED, type DeliveryRule } from '../contract/delivery.ts';

/** What a photo that can stay untouched no more is encoded with: as good as what it came from. */
const NEAR_UNTOUCHED = 95;

/**
 * A rule of which a part was changed. What cannot be with the change gives way to it: a size to blocks
 * that stay as they are, and those to a size, another type or a limit of bytes.
 */
export function coherentRule(rule: DeliveryRule, part: Partial<DeliveryRule>): DeliveryRule {
  const changed = coherentKind({ ...rule, ...part });
  const { file, resize } = changed;
  if (file.quality !== UNTOUCHED) return changed;
  const isWished = rule.file.quality !== UNTOUCHED;
  if (isWished) {
    return { ...changed, resize: null, file: { ...file, type: 'jpeg', max_bytes: null } };
  }
  const isPossible = resize === null && file.type === 'jpeg' && file.max_bytes === null;
  return isPossible ? changed : { ...changed, file: { ...file, quality: NEAR_UNTOUCHED } };
}

/** Photos go on paper as JPEGs, and into a show as what browsers show. */
function coherentKind(rule: DeliveryRule): DeliveryRule {
  if (rule.kind === 'files') return rule;
  const { type, quality } = rule.file;
  const isPossible = rule.kind === 'show' ? type !== 'tiff' : type === 'jpeg';
  const file = {
    type: isPossible ? type : 'jpeg',
    quality: quality === UNTOUCHED ? NEAR_UNTOUCHED : quality,
  } as const;
  return { ...rule, file: { ...rule.file, ...file } };
}
