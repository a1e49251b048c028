import { effectScope, nextTick, ref, type EffectScope } from 'vue';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { fakeServer, later, Refusal } from '../testing/fakeServer.ts';
import { api } from './client.ts';
import { noteAnswer } from './connection.ts';
import { useAttempt } from './useAttempt.ts';
import { useResource } from './useResource.ts';

/** What a part shows of the server, and what it does: late, twice, refused, away, left. */

let scope: EffectScope;
beforeEach(() => (scope = effectScope()));
afterEach(() => {
  scope.stop();
  noteAnswer();
});

const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 5; turn++) await new Promise((done) => setTimeout(done));
};
const named = <T>(about?: () => unknown) =>
  scope.run(() =>
    useResource<T>((signal) => api.get<T>('/thing', { signal }), about),
  ) as ReturnType<typeof useResource<T>>;

it('is asked for at once, and says that it is on its way', async () => {
  const answer = later<string>();
  fakeServer({ 'GET /thing': () => answer.promise });
  const thing = named<string>();
  expect(thing.isLoading.value).toBe(true);
  answer.give('here');
  await settled();
  expect([thing.value.value, thing.isLoading.value]).toEqual(['here', false]);
});

it('keeps the last answer when the next one is refused, and says why', async () => {
  const server = fakeServer({ 'GET /thing': 'here' });
  const thing = named<string>();
  await settled();
  server.set('GET /thing', new Refusal(404, 'gone', 'It is not there any more.'));
  await thing.load();
  expect(thing.value.value).toBe('here');
  expect(thing.problem.value).toBe('It is not there any more.');
});

it('leaves out what comes late for a former question', async () => {
  const answers = [later<string>(), later<string>()];
  let calls = 0;
  const id = ref(1);
  const thing = scope.run(() =>
    useResource(
      () => answers[calls++].promise,
      () => id.value,
    ),
  ) as ReturnType<typeof useResource<string>>;
  id.value = 2;
  await nextTick();
  answers[1].give('second');
  await settled();
  answers[0].give('first');
  await settled();
  expect(thing.value.value).toBe('second');
});

it('asks nothing while there is nothing to ask about', async () => {
  const server = fakeServer({ 'GET /thing': 'here' });
  const id = ref<number | null>(null);
  const thing = named<string>(() => id.value);
  await settled();
  expect(server.asked).toHaveLength(0);
  id.value = 1;
  await settled();
  expect(thing.value.value).toBe('here');
});

it('does not ask anew where what it is about is the same in other words', async () => {
  const server = fakeServer({ 'GET /thing': 'here' });
  const wish = ref({ ids: [1, 2] });
  named<string>(() => wish.value);
  await settled();
  wish.value = { ids: [1, 2] };
  await settled();
  expect(server.asked).toHaveLength(1);
});

it('comes by itself once the server is back', async () => {
  const server = fakeServer({});
  server.set('GET /thing', server.isDown);
  const thing = named<string>();
  await settled();
  expect(thing.problem.value).toMatch(/does not answer/);
  server.set('GET /thing', 'here');
  noteAnswer();
  await settled();
  expect([thing.value.value, thing.problem.value]).toEqual(['here', null]);
});

it('does not ask again for what was refused', async () => {
  const server = fakeServer({ 'GET /thing': new Refusal(404, 'gone', 'Gone.') });
  named<string>();
  await settled();
  server.set('GET /other', server.isDown);
  await api.get('/other').catch(() => undefined);
  noteAnswer();
  await settled();
  expect(server.of('GET', '/thing')).toHaveLength(1);
});

it('is told that its answer is not wanted when the part is left, and changes nothing then', async () => {
  const answer = later<string>();
  const signals: AbortSignal[] = [];
  const thing = scope.run(() =>
    useResource((signal) => {
      signals.push(signal);
      return answer.promise;
    }),
  ) as ReturnType<typeof useResource<string>>;
  scope.stop();
  answer.give('late');
  await settled();
  expect(signals[0].aborted).toBe(true);
  expect(thing.value.value).toBeNull();
});

it('does once what is asked twice, and can be tried again after it failed', async () => {
  const { attempt, isBusy, problem } = useAttempt();
  const gate = later<undefined>();
  const work = vi.fn(async () => {
    await gate.promise;
    throw new Error('The disk is full.');
  });
  const both = [attempt(work), attempt(work)];
  expect(isBusy.value).toBe(true);
  gate.give(undefined);
  await Promise.all(both);
  expect(work).toHaveBeenCalledOnce();
  expect([isBusy.value, problem.value]).toEqual([false, 'The disk is full.']);
  await attempt(async () => undefined);
  expect(problem.value).toBeNull();
});
