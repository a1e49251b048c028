import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import { STARTING_DELIVERIES } from '#core/delivery/startingDeliveries';

/** What the made-up season goes out as. */

interface DemoDelivery {
  readonly name: string;
  readonly preset: string;
  /** Laid over that, the lowest first. */
  readonly over?: readonly string[];
  readonly rule: DeliveryRule;
}

function startingDelivery(name: string): DeliveryRule {
  const found = STARTING_DELIVERIES.find((delivery) => delivery.name === name);
  if (!found) throw new Error(`No delivery to begin with is named "${name}".`);
  return found.rule;
}

export const DELIVERIES: readonly DemoDelivery[] = [
  {
    name: 'Web gallery',
    preset: 'Signature, low right, light',
    rule: startingDelivery('Web gallery'),
  },
  {
    name: 'Client proofs',
    preset: 'Signature all over, proofs',
    over: ['Proof number, low right'],
    rule: startingDelivery('Client proofs'),
  },
  {
    name: 'Square feed',
    preset: 'Signature, inside the square',
    rule: startingDelivery('Square feed'),
  },
  {
    name: 'Print 10 × 15 cm',
    preset: 'Signature, low right, light',
    rule: startingDelivery('Print 10 × 15 cm'),
  },
  {
    name: 'Proof sheet',
    preset: 'Signature, low right, light',
    rule: deliveryRuleSchema.parse({
      ...{ kind: 'sheet', name_pattern: '{batch}, {delivery}', resize: null },
      sheet: {
        ...{ paper: 'a4', lies: 'across', grid: { columns: 4, rows: 3, gap: 5 } },
        ...{ caption: { pattern: '{number:2}  {name}' }, margin: { top: 12, bottom: 12 } },
      },
    }),
  },
  {
    name: 'Evening show',
    preset: 'Signature, low right, light',
    rule: deliveryRuleSchema.parse({
      ...{ kind: 'show', name_pattern: '{batch}, {delivery}', metadata: { keep: 'none' } },
      show: { seconds: 6, title: 'Mornings on the breakwater' },
    }),
  },
];
