import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { AdjustmentsWish } from '#core/contract/readability';
import { api, ApiError } from '../api/client.ts';
import { useAdjustmentSync } from './adjustmentSync.ts';
import { useDraft } from '../preset/draft.ts';
import { useNotices } from '../app/notices.ts';
import { useSaving } from '../app/saving.ts';

const AWAY = new ApiError('not-reached', 'The server does not answer.', {}, 0);

let sent: { path: string; changes: AdjustmentsWish['changes'] }[];
beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  sent = [];
  vi.spyOn(api, 'put').mockImplementation((path, body) => {
    sent.push({ path, changes: (body as AdjustmentsWish).changes });
    return Promise.resolve(undefined as never);
  });
});
afterEach(() => vi.restoreAllMocks());

it('sends what has changed, once, and what was taken back as nothing', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, [{ photoId: 7, adjustment: { opacity: 0.4 } }]);
  expect(await sync.flush()).toBe(true);
  expect(sent).toEqual([]);
  draft.adjust([8], { rotation: 2 });
  draft.takeBack([7]);
  await sync.flush();
  await sync.flush();
  expect(sent).toEqual([
    {
      path: '/batches/3/adjustments',
      changes: [
        { photoId: 7, adjustment: null },
        { photoId: 8, adjustment: { rotation: 2 } },
      ],
    },
  ]);
});

it('keeps what could not be sent, the newest of it, and sends that when it can', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  draft.adjust([8], { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(AWAY);
  expect(await sync.flush()).toBe(false);
  expect(useSaving().waiting).toBe(1);
  // A server that is away is no news each time: a sign says that something is not saved yet.
  expect(useNotices().notices).toEqual([]);
  draft.adjust([8], { rotation: 3 });
  expect(await sync.flush()).toBe(true);
  expect(sent.map(({ changes }) => changes[0].adjustment)).toEqual([{ rotation: 3 }]);
  expect(useSaving().waiting).toBe(0);
});

it('keeps what a server could not take that failed itself', async () => {
  const sync = useAdjustmentSync();
  sync.take(3, []);
  useDraft().adjust([8], { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(new ApiError('internal', 'Disk full.', {}, 500));
  expect(await sync.flush()).toBe(false);
  expect(await sync.flush()).toBe(true);
  expect(sent).toHaveLength(1);
});

it('sends what a page did not get rid of when it is opened again', async () => {
  useAdjustmentSync().take(3, []);
  useDraft().adjust([8], { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(AWAY);
  expect(await useAdjustmentSync().flush()).toBe(false);
  await Promise.resolve();
  setActivePinia(createPinia());
  expect(await useAdjustmentSync().flush()).toBe(true);
  expect(sent[0].changes).toEqual([{ photoId: 8, adjustment: { rotation: 2 } }]);
  useAdjustmentSync().take(3, []);
  expect(useDraft().adjustments.size).toBe(0);
});

it('leaves a batch with everything sent, and nothing of it in hand', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  draft.adjust([8], { leftOut: true });
  await sync.leave();
  expect(sent).toHaveLength(1);
  expect(draft.adjustments.size).toBe(0);
  await sync.flush();
  expect(sent).toHaveLength(1);
});

it('is not confused by a batch that is opened while another is still being sent', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  draft.adjust([8], { rotation: 2 });
  const leaving = sync.leave();
  sync.take(4, [{ photoId: 20, adjustment: { opacity: 0.1 } }]);
  draft.adjust([21], { leftOut: true });
  await leaving;
  await sync.flush();
  expect([...draft.adjustments.keys()]).toEqual([20, 21]);
  expect(sent).toEqual([
    { path: '/batches/3/adjustments', changes: [{ photoId: 8, adjustment: { rotation: 2 } }] },
    { path: '/batches/4/adjustments', changes: [{ photoId: 21, adjustment: { leftOut: true } }] },
  ]);
});

it('knows better than an answer that was on its way while something was sent', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  draft.adjust([8], { rotation: 2 });
  const leaving = sync.leave();
  sync.take(3, []);
  expect(draft.adjustments.get(8)).toEqual({ rotation: 2 });
  await leaving;
  await sync.flush();
  expect(sent).toHaveLength(1);
});

it('keeps what was changed before the answer of the batch was there', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.begin(3);
  draft.adjust([8], { rotation: 2 });
  sync.take(3, [{ photoId: 9, adjustment: { opacity: 0.5 } }]);
  expect([...draft.adjustments.keys()].sort()).toEqual([8, 9]);
  await sync.flush();
  expect(sent[0].changes).toEqual([{ photoId: 8, adjustment: { rotation: 2 } }]);
});

it('follows another window, but not over what is not sent yet', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  draft.target = [8];
  draft.adjust([8], { rotation: 2 });
  sync.follow(3, [
    { photoId: 8, adjustment: { rotation: 9 } },
    { photoId: 9, adjustment: { leftOut: true } },
  ]);
  expect(draft.adjustments.get(8)).toEqual({ rotation: 2 });
  expect(draft.adjustments.get(9)).toEqual({ leftOut: true });
  expect(draft.target).toEqual([8]);
  sync.follow(4, []);
  expect(draft.adjustments.size).toBe(2);
});

it('sends thousands in portions, and is not held up by what is refused', async () => {
  const sync = useAdjustmentSync();
  const draft = useDraft();
  sync.take(3, []);
  const ids = Array.from({ length: 600 }, (_, index) => index + 1);
  draft.adjust(ids, { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(new ApiError('not-found', 'That batch is gone.'));
  expect(await sync.flush()).toBe(false);
  expect(useNotices().notices[0].text).toBe('That batch is gone.');
  expect(sent.map(({ changes }) => changes.length)).toEqual([250, 100]);
  expect(await sync.flush()).toBe(true);
  expect(sent).toHaveLength(2);
});
