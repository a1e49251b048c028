import { stat, statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { DeliveryPlanView, DiskPlanView } from '#core/contract/http';
import { withinTime } from '../storage/withinTime.ts';

/** What looking at a disk may take; one on another computer may never answer. */
const LOOK_MS = 5_000;

/** The disks that deliveries write to, each once; those that say nothing of their room are left out. */
export async function disksOf(
  deliveries: readonly Pick<DeliveryPlanView, 'folder' | 'estimatedBytes'>[],
): Promise<DiskPlanView[]> {
  const disks = new Map<number, DiskPlanView>();
  for (const { folder, estimatedBytes } of deliveries) {
    const disk = await withinTime(LOOK_MS, folder, () => roomOf(folder)).catch(() => null);
    if (!disk) continue;
    const known = disks.get(disk.device);
    disks.set(disk.device, {
      folder: known?.folder ?? folder,
      neededBytes: (known?.neededBytes ?? 0) + estimatedBytes,
      freeBytes: disk.freeBytes,
    });
  }
  return [...disks.values()];
}

/** Of a folder that is made by the run itself: of the one that it will lie in. */
async function roomOf(folder: string): Promise<{ device: number; freeBytes: number }> {
  try {
    const [{ dev }, { bavail, bsize }] = await Promise.all([stat(folder), statfs(folder)]);
    return { device: dev, freeBytes: bavail * bsize };
  } catch (error) {
    const parent = dirname(folder);
    if (parent === folder) throw error;
    return roomOf(parent);
  }
}
