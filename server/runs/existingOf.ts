import type { DeliveryRule, ExistingRule } from '#core/contract/delivery';

/** A show is a folder, which takes the place of no other: what is in that was not made here. */
export function existingOf({ kind, existing }: DeliveryRule): ExistingRule {
  return kind === 'show' && existing === 'replace' ? 'number' : existing;
}
