import type { Ref } from 'vue';
import type { Pins } from '#core/contract/http';
import { useNotices } from '../app/notices.ts';
import type { Dropped } from '../ui/droppedFiles.ts';
import { counted } from '../ui/format.ts';
import { useDropTarget } from '../ui/windowDrop.ts';
import { useBatches } from './batches.ts';
import { useUploads } from './uploads.ts';
import type { useWallSelection } from './useWallSelection.ts';

interface Chosen extends Pick<ReturnType<typeof useWallSelection>, 'selectNone'> {
  readonly selected: Ref<ReadonlySet<number>>;
}

/** What comes into the open batch, is taken out of it and is pinned in it. */
export function useBatchContent(batchId: () => number, { selected, selectNone }: Chosen) {
  const batches = useBatches();
  const notices = useNotices();
  const uploads = useUploads();

  function take({ files }: Dropped): void {
    void uploads.send(batchId(), files);
  }

  useDropTarget({ says: () => `Add to ${batches.open?.name ?? 'this batch'}`, take });

  function removeSelected(): void {
    const ids = [...selected.value];
    selectNone();
    void notices.attempt(async () => {
      await batches.removePhotos(ids);
      const text = `${counted(ids.length, 'photo')} taken out of the batch.`;
      notices.done(text, { to: '/settings', label: 'To the bin' });
    });
  }

  function keepPins(pins: Pins): void {
    void notices.attempt(() => batches.change(batchId(), { pins }));
  }

  return { take, removeSelected, keepPins };
}
