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
]);
