import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import type { DeliveryView } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';

/** Adds a delivery that is shaped afterwards. @returns null where that failed, which is told */
export function useNewDelivery(): () => Promise<DeliveryView | null> {
  const library = useLibrary();
  const notices = useNotices();
  return async () => {
    const names = library.deliveries.map((delivery) => delivery.name);
    let added: DeliveryView | null = null;
    await notices.attempt(async () => {
      added = await library.addDelivery({
        name: freeName(names.length === 0 ? 'Web gallery' : 'New delivery', names),
        presetId: null,
        overIds: [],
        rule: DEFAULT_DELIVERY,
        folder: null,
        subfolder: 'none',
        zip: false,
        favourite: true,
      });
    });
    return added;
  };
}
