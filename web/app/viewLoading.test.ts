import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import { noteAnswer, noteAway } from '../api/connection.ts';
import { fakeServer, Refusal } from '../testing/fakeServer.ts';
import { watchViewLoading, type ViewLoading } from './viewLoading.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

/** A view whose code does not come, at the start and later; the server answers or does not. */

const view = { template: '<p></p>' };
const broken = (): Promise<never> => Promise.reject(new Error('Failed to fetch'));

let router: Router;
let watched: ViewLoading & { stop: () => void };
const load = vi.fn<(address: string) => void>();
const tell = vi.fn<(sentence: string) => void>();

beforeEach(() => {
  sessionStorage.clear();
  load.mockReset();
  tell.mockReset();
  router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', component: view },
      { path: '/broken', component: broken },
    ],
  });
  watched = watchViewLoading(router, load, tell);
});
afterEach(() => {
  watched.stop();
  noteAnswer();
  vi.unstubAllGlobals();
});

const open = (path: string): Promise<unknown> => router.push(path).catch(() => undefined);

describe('the first view of a page', () => {
  it('is loaded anew once where the server answers, and then waits to be asked', async () => {
    fakeServer({ 'GET /settings': {} });
    await open('/broken');
    await eventually(() => expect(load).toHaveBeenCalledExactlyOnceWith('/broken'));
    // The page that was loaded anew fails in the same way.
    await open('/broken');
    await Promise.resolve();
    expect(load).toHaveBeenCalledOnce();
    expect(watched.missing.value).toBe('/broken');
    watched.openAnew();
    expect(load).toHaveBeenCalledTimes(2);
    expect(tell).not.toHaveBeenCalled();
  });

  it('that failed while the server was away opens when it is back', async () => {
    const server = fakeServer({});
    server.set('GET /settings', server.isDown);
    await open('/broken');
    expect(watched.missing.value).toBe('/broken');
    await eventually(() => expect(server.of('GET', '/settings')).not.toHaveLength(0));
    expect(load).not.toHaveBeenCalled();
    noteAway();
    noteAnswer();
    expect(load).toHaveBeenCalledExactlyOnceWith('/broken');
  });

  it('is not missed any more when another is opened instead', async () => {
    fakeServer({ 'GET /settings': new Refusal(503, 'away', 'Not now.') });
    await open('/broken');
    expect(watched.missing.value).toBe('/broken');
    await open('/');
    expect(watched.missing.value).toBe(null);
    noteAway();
    noteAnswer();
    expect(load).not.toHaveBeenCalled();
  });
});

describe('a later view', () => {
  it('leaves the one that is open where the server is away, and says so', async () => {
    const server = fakeServer({});
    server.set('GET /settings', server.isDown);
    await open('/');
    await open('/broken');
    await eventually(() => expect(tell).toHaveBeenCalledOnce());
    expect(watched.missing.value).toBe(null);
    expect(load).not.toHaveBeenCalled();
  });

  it('is opened by loading the page at it where the server answers', async () => {
    fakeServer({ 'GET /settings': {} });
    await open('/');
    await open('/broken');
    await eventually(() => expect(load).toHaveBeenCalledExactlyOnceWith('/broken'));
  });
});
