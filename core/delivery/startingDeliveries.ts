import { deliveryRuleSchema, type DeliveryRule } from '../contract/delivery.ts';

/** A delivery that is there from the first start; all of them drop the position of a photo. */
export interface StartingDelivery {
  readonly name: string;
  readonly rule: DeliveryRule;
}

const starting = (name: string, rule: object): StartingDelivery => ({
  name,
  rule: deliveryRuleSchema.parse(rule),
});

export const STARTING_DELIVERIES: readonly StartingDelivery[] = Object.freeze([
  starting('Web gallery', {
    resize: { rule: 'long-side', px: 2048 },
    file: { type: 'jpeg', quality: 88 },
    name_pattern: '{name}-web',
  }),
  starting('Full size', {
    resize: null,
    file: { type: 'jpeg', quality: 92 },
    name_pattern: '{name}-full',
  }),
  starting('Client proofs', {
    resize: { rule: 'long-side', px: 1200 },
    file: { type: 'jpeg', quality: 80, chroma: '4:2:0' },
    name_pattern: '{batch} {number:3}',
    metadata: { keep: 'none' },
  }),
  // Feeds show the middle square of a photo; a preset that stays within it belongs to this.
  starting('Square feed', {
    resize: { rule: 'long-side', px: 1620 },
    file: { type: 'jpeg', quality: 90 },
    name_pattern: '{name}-feed',
    sharpen: 'low',
  }),
  starting('Print 10 × 15 cm', {
    // 15 × 10 cm at 300 pixels an inch; upright photos fit in their own way.
    resize: { rule: 'long-side', px: 1772 },
    file: { type: 'jpeg', quality: 95 },
    name_pattern: '{name}-10x15',
    sharpen: 'standard',
    dpi: 300,
  }),
]);
