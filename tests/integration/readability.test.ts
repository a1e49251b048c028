import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RunItemView } from '#core/contract/http';
import type { InkView, MarkReading, ReadingView } from '#core/contract/readability';
import { unpackedLightMaps } from '#core/readability/lightMap';
import { openHouse, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG, pixelsOf } from '../helpers/makePhoto.ts';
import { addBatch, addDelivery, addMark, ruleOf, runToEnd, wishOf } from '../helpers/runs.ts';

/** Readability through the server: measured, chosen by, adjusted by hand, exported as shown. */

let test: TestHouse;
let photos: string;
let markId: number;
let batchId: number;
let deliveryId: number;
let ids: Record<string, number>;

/** Four flat quarters: top left, top right, bottom left, bottom right. */
async function writeQuarters(name: string, greys: readonly number[], size = 800): Promise<void> {
  const half = size / 2;
  const side = { width: half, height: half, channels: 3 } as const;
  const quarter = (grey: number) =>
    sharp({ create: { ...side, background: { r: grey, g: grey, b: grey } } })
      .png()
      .toBuffer();
  const whole = { width: size, height: size, channels: 3 } as const;
  await sharp({ create: { ...whole, background: '#000000' } })
    .composite(
      await Promise.all(
        greys.map(async (grey, at) => ({
          input: await quarter(grey),
          left: at % 2 === 0 ? 0 : half,
          top: at < 2 ? 0 : half,
        })),
      ),
    )
    .jpeg({ quality: 95 })
    .toFile(join(photos, name));
}

beforeAll(async () => {
  test = await openHouse();
  photos = join(test.pictures, 'Quarters');
  mkdirSync(photos);
  await writeQuarters('a dark.jpg', [10, 10, 10, 10]);
  await writeQuarters('b bright.jpg', [245, 245, 245, 245]);
  await writeQuarters('c mixed.jpg', [10, 245, 245, 245]);
  markId = await addMark(test, Buffer.from(MARK_SVG), 'mark.svg');
  batchId = await addBatch(test, photos);
  const out = join(test.pictures, 'out');
  mkdirSync(out);
  deliveryId = await addDelivery(test, { resize: null, file: { type: 'png' } }, out);
  const all = (await test.api.get(`/api/batches/${batchId}`)).body.photos;
  ids = Object.fromEntries(
    all.map(({ id, name }: { id: number; name: string }) => [name.slice(0, 1), id]),
  );
});
afterAll(() => test.close());

async function readings(part: object, adjustment = {}): Promise<Record<string, MarkReading>> {
  const wishes = Object.values(ids).map((photoId) => ({
    photoId,
    marks: [{ markId, rule: ruleOf(part), adjustment }],
  }));
  const answer = await test.api.post('/api/readings').send({ resize: null, photos: wishes });
  expect(answer.status).toBe(200);
  const found = answer.body as ReadingView[];
  return Object.fromEntries(
    Object.entries(ids).map(([name, id]) => [
      name,
      found.find(({ photoId }) => photoId === id)?.marks[0] as MarkReading,
    ]),
  );
}

const LIGHT = { tone: { tone: 'light' }, opacity: 1 };

describe('readings', () => {
  it('tell clear from lost, and choose the tone that reads', async () => {
    const fixed = await readings(LIGHT);
    expect(fixed.a.readability?.class).toBe('clear');
    expect(fixed.b.readability?.class).toBe('lost');
    const auto = await readings({ opacity: 1 });
    expect([auto.a.choice.tone, auto.b.choice.tone]).toEqual(['light', 'dark']);
    expect(auto.b.readability?.share).toBeGreaterThan(0.99);
  });

  it('go to the first fallback that is clear, but not for a place chosen by hand', async () => {
    const rule = { ...LIGHT, fallbacks: ['bottom-left', 'top-left'] };
    const found = await readings(rule);
    expect(found.c.choice.anchor).toBe('top-left');
    expect(found.c.readability?.class).toBe('clear');
    expect(found.a.choice.anchor).toBe('bottom-right');
    const byHand = await readings(rule, { anchor: 'top-right' });
    expect(byHand.c.choice.anchor).toBe('top-right');
    expect(byHand.c.readability?.class).toBe('lost');
  });

  it.each(['halo', 'plate'])(
    'lay a %s under a mark that would be lost, no stronger than needed',
    async (kind) => {
      const found = await readings({ ...LIGHT, rescue: kind });
      expect(found.a.choice.rescue).toBeNull();
      const { readability, choice } = found.b;
      expect(readability?.class).toBe('clear');
      expect(choice.rescue).toMatchObject({ kind, colour: '#000000' });
      expect(choice.rescue?.strength).toBeLessThan(0.5);
      const weaker = (choice.rescue?.strength ?? 0) - 0.05;
      expect(weaker).toBeGreaterThan(0);
    },
  );

  it('have no answer for a mark beside the photo, and leave out what is gone', async () => {
    const found = await readings({ ...LIGHT, offset: { x: 100, y: 0 } });
    expect(found.a.readability).toBeNull();
    const wish = { photoId: 9_999, marks: [{ markId, rule: ruleOf({}) }] };
    const answer = await test.api.post('/api/readings').send({ resize: null, photos: [wish] });
    expect(answer.body).toEqual([]);
  });

  it('can be estimated from what the server gives', async () => {
    const answer = await test.api
      .post('/api/light-maps')
      .send({ ids: [ids.c, 9_999] })
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      });
    const maps = unpackedLightMaps(answer.body as Buffer);
    expect([...maps.keys()]).toEqual([ids.c]);
    const map = maps.get(ids.c);
    expect(map?.cells[0]).toBeLessThan(20);
    expect(map?.cells.at(-2)).toBeGreaterThan(240);
    const ink = (await test.api.get(`/api/marks/${markId}/ink?version=1&parts=1`)).body as InkView;
    expect(ink.values.length).toBeGreaterThan(9);
    expect(ink.colour).toEqual([0xd0, 0x10, 0x30]);
  });
});

describe('adjustments', () => {
  const put = (changes: object) =>
    test.api.put(`/api/batches/${batchId}/adjustments`).send({ changes });

  async function exported(rule: object): Promise<Record<string, RunItemView>> {
    const wish = wishOf({ batchId, deliveryIds: [deliveryId], markId, rule: ruleOf(rule) });
    const { items } = await runToEnd(test, wish);
    return Object.fromEntries(items.map((item) => [item.sourceName.slice(0, 1), item]));
  }

  it('are kept with their photo, taken back, and checked', async () => {
    const adjustment = { opacity: 0.5, stamps: [{ x: 0.5, y: 0.5, scale: 1, rotation: 20 }] };
    await put([{ photoId: ids.a, adjustment }]).expect(204);
    const kept = (await test.api.get(`/api/batches/${batchId}`)).body.adjustments;
    expect(kept).toEqual([{ photoId: ids.a, adjustment }]);
    await put([{ photoId: ids.a, adjustment: null }]).expect(204);
    expect((await test.api.get(`/api/batches/${batchId}`)).body.adjustments).toEqual([]);
    const wrong = await put([{ photoId: ids.a, adjustment: { opacty: 1 } }]);
    expect(wrong.body.message).toContain('unknown key "opacty". Did you mean "opacity"?');
  });

  it('are what is exported, each photo as it was shown', async () => {
    await put([
      { photoId: ids.a, adjustment: { leftOut: true } },
      { photoId: ids.c, adjustment: { anchor: 'top-left' } },
    ]).expect(204);
    const items = await exported(LIGHT);
    expect(Object.keys(items).sort()).toEqual(['b', 'c']);
    expect(items.b.placement?.anchor).toBe('bottom-right');
    expect(items.c.placement?.anchor).toBe('top-left');
    const plan = await test.api
      .post('/api/runs/plan')
      .send(wishOf({ batchId, deliveryIds: [deliveryId], markId }));
    expect(plan.body).toMatchObject({ files: 2, leftOut: 1 });
  });

  it('give a photo another preset, which may be deleted later', async () => {
    const other = { name: 'Other', markId, rule: ruleOf({ ...LIGHT, anchor: 'centre' }) };
    const { id: presetId } = (await test.api.post('/api/presets').send(other)).body;
    await put([
      { photoId: ids.a, adjustment: { presetId, opacity: 0.4 } },
      { photoId: ids.c, adjustment: null },
    ]).expect(204);
    const items = await exported(LIGHT);
    expect(items.a.placement).toMatchObject({ anchor: 'centre', opacity: 0.4 });
    expect(items.b.placement?.anchor).toBe('bottom-right');
    await test.api.delete(`/api/presets/${presetId}`).expect(204);
    // In the bin it places nothing any more; back again it does.
    expect((await exported(LIGHT)).a.placement).toMatchObject({ anchor: 'bottom-right' });
    await test.api.post(`/api/bin/presets/${presetId}/put-back`).expect(200);
    expect((await exported(LIGHT)).a.placement).toMatchObject({ anchor: 'centre' });
    await test.api.delete(`/api/presets/${presetId}`).expect(204);
    await test.api.delete('/api/bin').expect(200);
    const kept = (await test.api.get(`/api/batches/${batchId}`)).body.adjustments;
    expect(kept).toEqual([{ photoId: ids.a, adjustment: { opacity: 0.4 } }]);
    await put([{ photoId: ids.a, adjustment: null }]).expect(204);
  });

  it('are chosen for as shown, and the output reads as the reading said', async () => {
    const rule = { ...LIGHT, fallbacks: ['top-left'], rescue: 'halo' };
    const shown = await readings(rule);
    const items = await exported(rule);
    for (const name of ['a', 'b', 'c']) {
      const { placement, readability } = items[name];
      const { choice } = shown[name];
      expect(placement).toMatchObject(choice);
      expect(readability).toEqual(shown[name].readability);
    }
    expect(items.b.placement?.rescue?.kind).toBe('halo');
  });
});

describe('regions', () => {
  it('are the pixels that an export has there', async () => {
    const choice = { anchor: 'bottom-right', tone: 'light', rescue: null, opacity: 1 };
    const marks = [{ markId, rule: ruleOf(LIGHT), choice }];
    const region = { x: 600, y: 700, width: 180, height: 90 };
    const answer = await test.api
      .post(`/api/photos/${ids.a}/region`)
      .send({ resize: null, marks, ...region });
    expect(answer.status).toBe(200);
    const seen = await pixelsOf(answer.body as Buffer);
    const { items } = await runToEnd(
      test,
      wishOf({ batchId, deliveryIds: [deliveryId], markId, rule: ruleOf(LIGHT) }),
    );
    const output = items.find(({ photoId }) => photoId === ids.a)?.outputName ?? '';
    const whole = await sharp(join(test.pictures, 'out', output))
      .extract({ left: 600, top: 700, width: 180, height: 90 })
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(Buffer.compare(Buffer.from(seen.data), whole)).toBe(0);
    const bare = await test.api
      .post(`/api/photos/${ids.a}/region`)
      .send({ resize: null, marks: [], ...region });
    const { data } = await pixelsOf(bare.body as Buffer);
    expect(Math.max(...data)).toBeLessThan(14);
    expect(Math.max(...seen.data)).toBeGreaterThan(250);
  });

  it('are refused where the output would be larger than any that is made', async () => {
    const resize = { rule: 'long-side', px: 60_000, px2: null, enlarge: true };
    const answer = await test.api
      .post(`/api/photos/${ids.a}/region`)
      .send({ resize, marks: [], x: 0, y: 0, width: 10, height: 10 });
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain('Expected an output of at most 300 megapixels');
  });

  it('are cut to the photo', async () => {
    const region = { x: 790, y: 0, width: 500, height: 40 };
    const answer = await test.api
      .post(`/api/photos/${ids.a}/region`)
      .send({ resize: null, marks: [], ...region });
    const { width, height } = await sharp(answer.body as Buffer).metadata();
    expect([width, height]).toEqual([10, 40]);
  });
});
