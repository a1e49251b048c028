import { useRouter } from 'vue-router';
import type { BatchView } from '#core/contract/http';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { datesName } from '#core/batch/datesName';
import { freeName } from '#core/placement/suggestName';
import type { Dropped } from '../ui/droppedFiles.ts';
import { useBatches } from './batches.ts';
import { useLibrary } from '../app/library.ts';
import { laidOver } from '../preset/beside.ts';
import { useNotices } from '../app/notices.ts';
import { useUploads } from './uploads.ts';
import { takenDates } from './takenDates.ts';

interface IntakeWish {
  /** Goes straight to the confirmation of a run with this delivery. */
  readonly deliveryId?: number;
}

/** Photos in: a new batch of what was dropped or of a folder, shown while it fills. */
export function useIntake() {
  const router = useRouter();
  const batches = useBatches();
  const uploads = useUploads();
  const library = useLibrary();
  const notices = useNotices();

  async function newBatch(wantedName: string, wish: IntakeWish): Promise<BatchView> {
    const taken = batches.batches.map((batch) => batch.name);
    const name = freeName(wantedName.slice(0, NAME_MAX_LENGTH), taken);
    const delivery = library.deliveryOf(wish.deliveryId);
    const last = batches.batches[0];
    return batches.create({
      name,
      presetId: delivery?.presetId ?? last?.presetId ?? library.presets[0]?.id ?? null,
      deliveryIds: delivery ? [delivery.id] : [...(last?.deliveryIds ?? [])],
      beside: laidOver(delivery?.overIds ?? []),
    });
  }

  async function show(batch: BatchView, wish: IntakeWish): Promise<void> {
    const query = wish.deliveryId === undefined ? {} : { confirm: String(wish.deliveryId) };
    await router.push({ path: `/batches/${batch.id}`, query });
  }

  async function takeFiles(dropped: Dropped, wish: IntakeWish = {}): Promise<void> {
    if (dropped.files.length === 0) return;
    await notices.attempt(async () => {
      const dates = dropped.folderName === null ? await takenDates(dropped.files) : [];
      const batch = await newBatch(dropped.folderName ?? datesName(dates), wish);
      void uploads.send(batch.id, dropped.files);
      await show(batch, wish);
    });
  }

  async function takeFolder(path: string, wish: IntakeWish = {}): Promise<void> {
    await notices.attempt(async () => {
      const name = path.split(/[/\\]/).filter(Boolean).at(-1) ?? path;
      const batch = await newBatch(name, wish);
      await batches.readFolder(batch.id, path);
      await show(batch, wish);
    });
  }

  return { takeFiles, takeFolder };
}
