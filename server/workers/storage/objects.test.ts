import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Objects } from './objects.ts';

/**
 * What a store answers that lists uploads on their way, which the one of the integration tests cannot: two
 * pages of them, or that it does not know how.
 */
let store: Server;
let asked: string[] = [];
let objects: Objects;
let knowsUploads = true;
/** Uploads that end by themselves before they are given up. */
let ended: string[] = [];
let givesMarkers = true;

const list = (name: string, content: string): string =>
  `<?xml version="1.0"?><${name} xmlns="http://s3.amazonaws.com/doc/2006-03-01/">${content}</${name}>`;
const upload = (key: string, id: string): string =>
  `<Upload><Key>${key}</Key><UploadId>${id}</UploadId></Upload>`;

function answer(url: URL): { readonly status: number; readonly body: string } {
  if (!url.searchParams.has('uploads')) {
    return { status: 200, body: list('ListBucketResult', '<KeyCount>0</KeyCount>') };
  }
  if (!knowsUploads) {
    return { status: 501, body: '<Error><Code>NotImplemented</Code></Error>' };
  }
  const isFirst = !url.searchParams.has('key-marker');
  const next = '<NextKeyMarker>p/w1-7-a</NextKeyMarker><NextUploadIdMarker>1</NextUploadIdMarker>';
  const body = isFirst
    ? `<IsTruncated>true</IsTruncated>${givesMarkers ? next : ''}${upload('p/w1-7-a', '1')}`
    : `<IsTruncated>false</IsTruncated>${upload('p/w1-7-b', '2')}`;
  return { status: 200, body: list('ListMultipartUploadsResult', body) };
}

beforeEach(async () => {
  vi.stubEnv('AWS_ACCESS_KEY_ID', 'k');
  vi.stubEnv('AWS_SECRET_ACCESS_KEY', 's');
  asked = [];
  knowsUploads = true;
  ended = [];
  givesMarkers = true;
  store = createServer((request, response) => {
    const url = new URL(request.url ?? '', 'http://store');
    const { status, body } =
      request.method === 'GET'
        ? answer(url)
        : { status: ended.includes(url.pathname) ? 404 : 204, body: '' };
    const what = ['prefix', 'key-marker', 'uploadId'].map((key) => url.searchParams.get(key) ?? '');
    if (url.searchParams.has('uploads') || request.method !== 'GET') {
      asked.push([request.method, url.pathname, ...what].filter(Boolean).join(' '));
    }
    response.writeHead(status, { 'content-type': 'application/xml' }).end(body);
  });
  await new Promise<void>((listens) => store.listen(0, '127.0.0.1', listens));
  const endpoint = `http://127.0.0.1:${(store.address() as AddressInfo).port}`;
  objects = new Objects({ bucket: 'studio', prefix: 'p/', region: 'us-east-1', endpoint });
});

afterEach(async () => {
  objects.close();
  await new Promise((closed) => store.close(closed));
  vi.unstubAllEnvs();
});

it('gives up all parts that were left on their way, page by page', async () => {
  await objects.removeBelow('w1-7-');
  expect(asked).toEqual([
    'GET /studio/ p/w1-7-',
    'DELETE /studio/p/w1-7-a 1',
    'GET /studio/ p/w1-7- p/w1-7-a',
    'DELETE /studio/p/w1-7-b 2',
  ]);
});

it('goes on where one has ended meanwhile, and leaves off where a store says no way on', async () => {
  ended = ['/studio/p/w1-7-a'];
  await objects.removeBelow('w1-7-');
  expect(asked.at(-1)).toBe('DELETE /studio/p/w1-7-b 2');
  asked = [];
  givesMarkers = false;
  await objects.removeBelow('w1-7-');
  expect(asked).toEqual(['GET /studio/ p/w1-7-', 'DELETE /studio/p/w1-7-a 1']);
});

it('asks for none of a store that does not list them', async () => {
  knowsUploads = false;
  await objects.removeBelow('w1-7-');
  expect(asked.filter((one) => one.startsWith('DELETE'))).toEqual([]);
});
