import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { AdjustmentsWish } from '#core/contract/readability';
import { api, ApiError } from '../api/client.ts';
import { useDraft } from './draft.ts';
import { useKeeping } from './keeping.ts';
import { useNotices } from './notices.ts';

let sent: { path: string; changes: AdjustmentsWish['changes'] }[];
beforeEach(() => {
  setActivePinia(createPinia());
  sent = [];
  vi.spyOn(api, 'put').mockImplementation((path, body) => {
    sent.push({ path, changes: (body as AdjustmentsWish).changes });
    return Promise.resolve(undefined as never);
  });
});
afterEach(() => vi.restoreAllMocks());

it('sends what has changed, once, and what was taken back as nothing', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, [{ photoId: 7, adjustment: { opacity: 0.4 } }]);
  expect(await keeping.flush()).toBe(true);
  expect(sent).toEqual([]);
  draft.adjust([8], { rotation: 2 });
  draft.takeBack([7]);
  await keeping.flush();
  await keeping.flush();
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

it('keeps what could not be sent for the next time, and says so', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, []);
  draft.adjust([8], { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(new Error('The server does not answer.'));
  expect(await keeping.flush()).toBe(false);
  expect(useNotices().notices[0].text).toBe('The server does not answer.');
  draft.adjust([8], { rotation: 3 });
  expect(await keeping.flush()).toBe(true);
  // In order, so that the later one counts.
  expect(sent.map(({ changes }) => changes[0].adjustment)).toEqual([
    { rotation: 2 },
    { rotation: 3 },
  ]);
});

it('leaves a batch with everything sent, and nothing of it in hand', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, []);
  draft.adjust([8], { leftOut: true });
  await keeping.leave();
  expect(sent).toHaveLength(1);
  expect(draft.adjustments.size).toBe(0);
  await keeping.flush();
  expect(sent).toHaveLength(1);
});

it('is not confused by a batch that is opened while another is still being sent', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, []);
  draft.adjust([8], { rotation: 2 });
  const leaving = keeping.leave();
  keeping.take(4, [{ photoId: 20, adjustment: { opacity: 0.1 } }]);
  draft.adjust([21], { leftOut: true });
  await leaving;
  await keeping.flush();
  expect([...draft.adjustments.keys()]).toEqual([20, 21]);
  expect(sent).toEqual([
    { path: '/batches/3/adjustments', changes: [{ photoId: 8, adjustment: { rotation: 2 } }] },
    { path: '/batches/4/adjustments', changes: [{ photoId: 21, adjustment: { leftOut: true } }] },
  ]);
});

it('knows better than an answer that was on its way while something was sent', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, []);
  draft.adjust([8], { rotation: 2 });
  const leaving = keeping.leave();
  keeping.take(3, []);
  expect(draft.adjustments.get(8)).toEqual({ rotation: 2 });
  await leaving;
  await keeping.flush();
  expect(sent).toHaveLength(1);
});

it('sends thousands in portions, and is not held up by what is refused', async () => {
  const keeping = useKeeping();
  const draft = useDraft();
  keeping.take(3, []);
  const ids = Array.from({ length: 600 }, (_, index) => index + 1);
  draft.adjust(ids, { rotation: 2 });
  vi.mocked(api.put).mockRejectedValueOnce(new ApiError('not-found', 'That batch is gone.'));
  expect(await keeping.flush()).toBe(false);
  expect(sent.map(({ changes }) => changes.length)).toEqual([250, 100]);
  expect(await keeping.flush()).toBe(true);
  expect(sent).toHaveLength(2);
});
