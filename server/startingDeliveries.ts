import { STARTING_DELIVERIES } from '#core/delivery/startingDeliveries';
import type { Tables } from './db/tables.ts';

/** The first export needs none to be made. Those that were deleted do not come back. */
export async function layStartingDeliveries({ deliveries, together }: Tables): Promise<void> {
  together(() => {
    if (deliveries.wereEverMade()) return;
    for (const { name, rule } of STARTING_DELIVERIES) {
      const own = {
        presetId: null,
        overIds: [],
        folder: null,
        subfolder: 'none',
        zip: false,
        favourite: true,
      } as const;
      deliveries.insert({ name, rule, ...own });
    }
  });
}
