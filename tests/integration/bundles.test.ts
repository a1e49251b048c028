import { createWriteStream, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  BundleDecision,
  BundleView,
  DeliveryView,
  MarkView,
  PresetView,
  TakenBundleView,
} from '#core/contract/http';
import { readBundle } from '#server/bundle/readBundle';
import { faceBytes } from '../helpers/faces.ts';
import { openHouse, temporaryFolder, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG } from '../helpers/makePhoto.ts';
import { addMark } from '../helpers/runs.ts';

/** Marks, presets and deliveries from one data folder to another, as one file. */

let from: TestHouse;
let to: TestHouse;
let folder: string;
let ids: { mark: number; other: number; low: number; high: number; delivery: number };
let whole: Buffer;
beforeAll(async () => {
  [from, to] = [await openHouse(), await openHouse()];
  folder = temporaryFolder();
  const mark = await addMark(from, Buffer.from(MARK_SVG), 'Crest.svg');
  const green = MARK_SVG.replace('#d01030', '#108040');
  const other = await addMark(from, Buffer.from(green), 'Seal.svg');
  const preset = async (name: string, markId: number, rule: object): Promise<number> =>
    (await from.api.post('/api/presets').send({ name, markId, rule }).expect(201)).body.id;
  const low = await preset('Low right', mark, { opacity: { rule: 'quiet' } });
  const high = await preset('High left', other, { anchor: 'top-left' });
  const delivery = await from.api
    .post('/api/deliveries')
    .send({ name: 'Proofs', presetId: low, overIds: [high], rule: { resize: { px: 900 } } })
    .expect(201);
  ids = { mark, other, low, high, delivery: delivery.body.id };
  whole = await packed({ deliveries: String(ids.delivery) });
});
afterAll(async () => {
  await from.close();
  await to.close();
  rmSync(folder, { recursive: true });
});

async function packed(query: object, house = from): Promise<Buffer> {
  const search = new URLSearchParams(query as Record<string, string>);
  const answer = await fetch(`http://127.0.0.1:${house.port}/api/bundle?${search}`);
  expect(answer.headers.get('content-disposition')).toContain('.crest.zip');
  return Buffer.from(await answer.arrayBuffer());
}

const send = (bytes: Buffer, house = to) =>
  house.api.post('/api/bundles').type('application/octet-stream').send(bytes);
const looked = async (bytes: Buffer): Promise<BundleView> =>
  (await send(bytes).expect(200)).body as BundleView;
const states = ({ entries }: BundleView): string[] =>
  entries.map(({ kind, name, state }) => `${kind} ${name}: ${state}`);
async function take(
  bytes: Buffer,
  decide: (name: string) => BundleDecision,
): Promise<TakenBundleView> {
  const { key, entries } = await looked(bytes);
  const decisions = entries.map(({ kind, key: own, name }) => {
    return { kind, key: own, decision: decide(name) };
  });
  return (await to.api.post(`/api/bundles/${key}`).send({ decisions }).expect(200)).body;
}
const listed = async <T>(kind: string): Promise<T[]> => (await to.api.get(`/api/${kind}`)).body;

async function zipOf(files: Record<string, string>): Promise<Buffer> {
  const path = join(folder, 'made.zip');
  const zip = new ZipArchive({ store: true });
  const written = pipeline(zip, createWriteStream(path));
  for (const [name, content] of Object.entries(files)) zip.append(content, { name });
  await Promise.all([zip.finalize(), written]);
  return readFileSync(path);
}

describe('a bundle', () => {
  it('brings what its things cannot be without, and is taken in whole', async () => {
    const first = await looked(whole);
    expect(states(first)).toEqual([
      ...['marks Crest: new', 'marks Seal: new'],
      ...['presets Low right: new', 'presets High left: new', 'deliveries Proofs: new'],
    ]);
    const taken = await take(whole, () => 'add');
    expect(taken).toEqual({ added: 5, replaced: 0, left: 0, problems: [] });
    const presets = await listed<PresetView>('presets');
    const low = presets.find(({ name }) => name === 'Low right')!;
    expect(low.rule.opacity).toMatchObject({ rule: 'quiet' });
    const marks = await listed<MarkView>('marks');
    expect(marks.find(({ id }) => id === low.markId)?.name).toBe('Crest');
    const delivery = (await listed<DeliveryView>('deliveries')).find(
      ({ name }) => name === 'Proofs',
    )!;
    const names = [delivery.presetId, ...delivery.overIds].map(
      (id) => presets.find((preset) => preset.id === id)?.name,
    );
    expect([names, delivery.rule.resize?.px]).toEqual([['Low right', 'High left'], 900]);
  });

  it('says what is there as it is, and what has another by its name', async () => {
    expect(new Set((await looked(whole)).entries.map(({ state }) => state))).toEqual(
      new Set(['same']),
    );
    const [low] = (await listed<PresetView>('presets')).filter(({ name }) => name === 'Low right');
    const { name, markId, version } = low;
    await to.api
      .put(`/api/presets/${low.id}`)
      .send({ name, markId, rule: { anchor: 'top' }, baseVersion: version })
      .expect(200);
    expect(states(await looked(whole)).filter((one) => !one.endsWith('same'))).toEqual([
      ...['presets Low right: taken', 'deliveries Proofs: taken'],
    ]);
  });

  it('leaves, replaces or adds beside, as it is decided for each', async () => {
    const before = await listed<PresetView>('presets');
    const low = before.find(({ name }) => name === 'Low right')!;
    expect(await take(whole, () => 'leave')).toEqual({
      ...{ added: 0, replaced: 0, left: 5, problems: [] },
    });
    expect((await listed<PresetView>('presets')).find(({ id }) => id === low.id)?.rule.anchor).toBe(
      'top',
    );
    const beside = await take(whole, (name) => (name === 'Low right' ? 'add' : 'leave'));
    expect(beside).toMatchObject({ added: 1, left: 4 });
    const names = (await listed<PresetView>('presets')).map(({ name }) => name);
    expect(names).toContain('Low right 2');
    const replaced = await take(whole, (name) => (name === 'Low right' ? 'replace' : 'leave'));
    expect(replaced).toMatchObject({ added: 0, replaced: 1 });
    const now = (await listed<PresetView>('presets')).find(({ id }) => id === low.id)!;
    expect(now.rule.opacity).toMatchObject({ rule: 'quiet' });
    // What it said before can be taken back.
    const versions = (await to.api.get(`/api/presets/${low.id}/versions`)).body;
    expect(versions.length).toBeGreaterThan(0);
    // A mark that is replaced gets a version, and keeps its presets.
    const seal = await take(whole, (name) => (name === 'Seal' ? 'replace' : 'leave'));
    expect(seal).toMatchObject({ replaced: 1, problems: [] });
  });

  it('says what could not be taken, and takes the rest', async () => {
    const empty = await openHouse();
    const { key, entries } = (await send(whole, empty).expect(200)).body as BundleView;
    const decisions = entries.map(({ kind, key: own, name }) => {
      return { kind, key: own, decision: name === 'Crest' ? 'leave' : 'add' };
    });
    const taken = (await empty.api.post(`/api/bundles/${key}`).send({ decisions }).expect(200))
      .body;
    expect(taken).toMatchObject({ added: 2, left: 1 });
    expect(taken.problems).toEqual([
      'Low right: its mark was not taken.',
      'Proofs: one of its presets was not taken.',
    ]);
    // Asked again, since the answer was lost: the same, and nothing twice.
    const again = await empty.api.post(`/api/bundles/${key}`).send({ decisions }).expect(200);
    expect(again.body).toEqual(taken);
    expect((await empty.api.get('/api/marks')).body).toHaveLength(1);
    const unknown = '00000000-0000-4000-8000-000000000000';
    expect((await empty.api.post(`/api/bundles/${unknown}`).send({ decisions })).status).toBe(404);
    await empty.close();
  });

  it('carries marks of layers with the fonts that may be handed on', async () => {
    const added = await from.api
      .post('/api/fonts?name=own.ttf')
      .type('application/octet-stream')
      .send(Buffer.from(faceBytes('caveat')))
      .expect(201);
    const family = added.body.id as string;
    const lettering = { text: 'Tern', font: { family, weight: added.body.faces[0].weight } };
    const layers = [{ id: 'w', kind: 'lettering', name: 'Words', lettering }];
    const made = await from.api
      .post('/api/designs')
      .send({ name: 'Worded', design: { layers } })
      .expect(201);
    const bytes = await packed({ marks: String(made.body.id) });
    writeFileSync(join(folder, 'fonts.zip'), bytes);
    const read = await readBundle(join(folder, 'fonts.zip'));
    expect(read.ok && read.value.bundle.fonts).toMatchObject([{ family, name: added.body.name }]);
    // Elsewhere that name of a family is another's.
    await to.api
      .post('/api/fonts?name=other.ttf')
      .type('application/octet-stream')
      .send(Buffer.from(faceBytes('allura')))
      .expect(201);
    expect(await take(bytes, () => 'add')).toMatchObject({ added: 1, problems: [] });
    const fonts = await listed<{ id: string; name: string }>('fonts');
    const here = fonts.find(({ name }) => name === added.body.name)!;
    const worded = (await listed<MarkView>('marks')).find(({ name }) => name === 'Worded')!;
    const design = (await to.api.get(`/api/marks/${worded.id}/design`)).body;
    expect(design.design.layers[0].lettering.font.family).toBe(here.id);
    expect(here.id).not.toBe(family);
    expect((await looked(bytes)).entries[0].state).toBe('same');
  });

  it.each([
    ['no ZIP', 'just text', /no ZIP/],
    ['another ZIP', { 'a.txt': 'x' }, /without bundle.json/],
    ['no JSON', { 'bundle.json': '{' }, /bundle.json: .*expected/],
    ['a newer one', { 'bundle.json': '{"format":"light-crest/bundle","version":2}' }, /version/],
    [
      'one without the file of a mark',
      {
        'bundle.json': JSON.stringify({
          ...{ format: 'light-crest/bundle', version: 1, made_at: '' },
          marks: [{ key: '1', name: 'Gone', file: 'marks/1.svg' }],
        }),
      },
      /names marks\/1.svg for Gone/,
    ],
    [
      'one with a file from elsewhere',
      {
        'bundle.json': JSON.stringify({
          ...{ format: 'light-crest/bundle', version: 1, made_at: '' },
          marks: [{ key: '1', name: 'Out', file: '../../secret.svg' }],
        }),
      },
      /marks.0.file/,
    ],
  ] as const)('is refused where it is %s', async (_, content, reason) => {
    const bytes = typeof content === 'string' ? Buffer.from(content) : await zipOf(content);
    const refused = await send(bytes).expect(422);
    expect(refused.body.message).toMatch(reason);
  });

  it('with artwork that is none adds nothing of it', async () => {
    const bundle = {
      ...{ format: 'light-crest/bundle', version: 1, made_at: '' },
      marks: [{ key: '1', name: 'Broken', file: 'marks/1.svg' }],
    };
    const files = { 'bundle.json': JSON.stringify(bundle), 'marks/1.svg': '<svg><script/></svg>' };
    const before = await listed<MarkView>('marks');
    const taken = await take(await zipOf(files), () => 'add');
    expect(taken).toMatchObject({ added: 0, problems: [expect.stringContaining('Broken: ')] });
    expect(await listed<MarkView>('marks')).toHaveLength(before.length);
  });
});
