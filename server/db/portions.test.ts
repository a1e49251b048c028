import { expect, it } from 'vitest';
import { Portions } from './portions.ts';

/** Transactions that are counted; one that throws leaves nothing. */
function database() {
  const kept: string[] = [];
  let open: string[] = [];
  const state = { commits: 0, isFull: false };
  const together = <T>(work: () => T): T => {
    open = [];
    const result = work();
    if (state.isFull) throw new Error('disk full');
    kept.push(...open);
    state.commits++;
    return result;
  };
  return {
    kept,
    state,
    portions: new Portions({ together }),
    put: (what: string) => open.push(what),
  };
}

it('commits what comes at the same time together, in its order', async () => {
  const { kept, state, portions, put } = database();
  await Promise.all(['a', 'b', 'c'].map((what) => portions.write(() => put(what))));
  expect([kept, state.commits]).toEqual([['a', 'b', 'c'], 1]);
  await portions.write(() => put('d'));
  expect([kept, state.commits]).toEqual([['a', 'b', 'c', 'd'], 2]);
});

it('commits very many in several portions, and lets others in between', async () => {
  const { kept, state, portions, put } = database();
  const names = Array.from({ length: 200 }, (_, index) => `${index}`);
  let between = 0;
  // Asked before the second portion, so it comes before that.
  setImmediate(() => setImmediate(() => (between = state.commits)));
  await Promise.all(names.map((name) => portions.write(() => put(name))));
  expect([kept, state.commits]).toEqual([names, 4]);
  expect(between).toBeLessThan(4);
  await portions.write(() => put('after'));
  expect(kept.at(-1)).toBe('after');
});

it('one that fails fails alone, and nothing is kept twice', async () => {
  const { kept, portions, put } = database();
  const bad = portions.write(() => {
    put('half');
    throw new Error('no such row');
  });
  const ends = await Promise.allSettled([
    portions.write(() => put('a')),
    bad,
    portions.write(() => put('b')),
  ]);
  expect(ends.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  expect(kept).toEqual(['a', 'b']);
});

it('tells all of them where the database cannot be written', async () => {
  const { kept, state, portions, put } = database();
  state.isFull = true;
  const ends = await Promise.allSettled(['a', 'b'].map((one) => portions.write(() => put(one))));
  expect(ends.map(({ status }) => status)).toEqual(['rejected', 'rejected']);
  state.isFull = false;
  await portions.write(() => put('c'));
  expect(kept).toEqual(['c']);
});

it('gathers what comes one after the other while several come at once, and one that comes alone does not wait', async () => {
  const { state, portions, put } = database();
  const write = (name: string): Promise<void> => portions.write(() => put(name));
  await Promise.all([write('a'), write('b')]);
  const one = write('c');
  await new Promise((done) => setImmediate(done));
  await Promise.all([one, write('d')]);
  expect(state.commits).toBe(2);
  await new Promise((done) => setTimeout(done, 30));
  await write('e');
  let turns = 0;
  const alone = write('f');
  setImmediate(() => setImmediate(() => turns++));
  await alone;
  expect([state.commits, turns]).toEqual([4, 0]);
});
