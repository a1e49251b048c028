import { existsSync, mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import type { PresetView } from '#core/contract/http';
import { DEFAULT_RULE, presetFileSchema } from '#core/contract/preset';
import { openHouse, temporaryFolder, type TestHouse } from '../helpers/house.ts';
import { MARK_SVG } from '../helpers/makePhoto.ts';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.close());

async function addMark(svg = MARK_SVG, name = 'my-mark.svg') {
  return test.api
    .post('/api/marks')
    .query({ name })
    .type('application/octet-stream')
    .send(Buffer.from(svg));
}

describe('who may speak to the server', () => {
  it('refuses another host, as a rebound name would send it', async () => {
    const answer = await test.api.get('/api/settings').set('Host', `evil.example:${test.port}`);
    expect(answer.status).toBe(403);
    expect(answer.body.code).toBe('wrong-host');
  });

  it.each([
    ['Origin', 'http://evil.example'],
    ['Origin', 'null'],
    ['Sec-Fetch-Site', 'cross-site'],
  ])('refuses %s: %s', async (header, value) => {
    const answer = await test.api.post('/api/batches').set(header, value).send({ name: 'x' });
    expect(answer.status).toBe(403);
    expect(answer.body.code).toBe('wrong-origin');
  });

  it('takes its own page, and sends a strict policy', async () => {
    const answer = await test.api
      .get('/api/settings')
      .set('Origin', `http://127.0.0.1:${test.port}`);
    expect(answer.status).toBe(200);
    const policy = answer.headers['content-security-policy'];
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain("'unsafe-eval'");
  });
});

describe('errors', () => {
  it('are { code, message, details } with a sentence a key', async () => {
    const answer = await test.api.post('/api/batches').send({ nmae: 'Dawn' });
    expect(answer.status).toBe(400);
    expect(Object.keys(answer.body).sort()).toEqual(['code', 'details', 'message']);
    expect(answer.body.details.nmae).toContain('Did you mean "name"?');
    expect(answer.body.details.name).toContain('expected text');
  });

  it.each([
    ['get', '/api/nothing', 404],
    ['get', '/api/batches/999', 404],
    ['get', '/api/batches/x', 400],
    ['get', '/api/photos/999/tile', 404],
    ['get', '/api/outputs/1/file', 404],
    ['delete', '/api/marks/77', 404],
    ['post', '/api/runs/5/cancel', 404],
  ] as const)('%s %s is %d', async (method, path, status) => {
    expect((await test.api[method](path)).status).toBe(status);
  });

  it('says that JSON is broken', async () => {
    const answer = await test.api.post('/api/batches').type('json').send('{"name":');
    expect(answer.status).toBe(400);
    expect(answer.body.code).toBe('bad-request');
  });
});

describe('marks', () => {
  it('keeps the ink box, and draws every tone', async () => {
    const added = await addMark();
    expect(added.status).toBe(201);
    expect(added.body.name).toBe('My mark');
    expect(added.body.ink.x).toBeCloseTo(20, 0);
    expect(added.body.ink.width).toBeCloseTo(200, 0);
    expect(added.body.ink.height).toBeCloseTo(80, 0);
    for (const tone of ['light', 'dark', 'original', 'c9a25b']) {
      const picture = await test.api
        .get(`/api/marks/${added.body.id}/raster`)
        .query({ version: 1, tone, width: 96 });
      expect(picture.status).toBe(200);
      expect(picture.headers['content-type']).toBe('image/png');
    }
  });

  it.each([
    [
      '<svg xmlns="http://www.w3.org/2000/svg"><image href="http://example.org/x.png"/></svg>',
      'outside the file',
    ],
    ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"/>', 'something visible'],
    ['<svg', 'not well-formed'],
    ['no picture at all', 'PNG, SVG, WebP, TIFF, JPEG, HEIC or PDF'],
    ['', 'an empty file'],
  ])('refuses %s', async (content, sentence) => {
    const answer = await addMark(content, 'bad.svg');
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain(sentence);
  });

  it('stops a drawing that takes too long, and draws the next one', async () => {
    const inside = '<circle r="90" cx="100" cy="100" filter="url(#f)"/>'.repeat(3_000);
    const slow = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><filter id="f"><feGaussianBlur stdDeviation="19"/><feMorphology operator="dilate" radius="19"/></filter>${inside}</svg>`;
    const answer = await addMark(slow, 'slow.svg');
    expect(answer.status).toBe(422);
    expect(answer.body.message).toContain('took longer than 5 s');
    expect((await addMark()).status).toBe(201);
  });

  it('is not deleted while a preset uses it', async () => {
    const mark = (await addMark()).body;
    await test.api
      .post('/api/presets')
      .send({ name: 'Uses it', markId: mark.id, rule: DEFAULT_RULE });
    const refused = await test.api.delete(`/api/marks/${mark.id}`);
    expect(refused.status).toBe(409);
    expect(refused.body.message).toContain('used by Uses it');
    const retired = await test.api.patch(`/api/marks/${mark.id}`).send({ retired: true });
    expect(retired.body.retired).toBe(true);
  });
});

describe('presets and deliveries', () => {
  it('go through their whole life, and a preset in use stays', async () => {
    const mark = (await addMark()).body;
    const made = await test.api
      .post('/api/presets')
      .send({ name: 'Low', markId: mark.id, rule: { opacity: 0.5 } });
    expect(made.status).toBe(201);
    expect(made.body.rule).toEqual({ ...DEFAULT_RULE, opacity: 0.5 });
    const saved = await test.api
      .put(`/api/presets/${made.body.id}`)
      .send({ name: 'High', markId: mark.id, rule: { anchor: 'top' } });
    expect(saved.body).toMatchObject({ name: 'High', rule: { anchor: 'top', opacity: 0.85 } });
    const delivery = await test.api
      .post('/api/deliveries')
      .send({ name: 'Web', presetId: made.body.id, rule: DEFAULT_DELIVERY });
    expect(delivery.status).toBe(201);
    const refused = await test.api.delete(`/api/presets/${made.body.id}`);
    expect(refused.status).toBe(409);
    expect(refused.body.message).toContain('used by the delivery Web');
    await test.api.delete(`/api/deliveries/${delivery.body.id}`).expect(204);
    await test.api.delete(`/api/presets/${made.body.id}`).expect(204);
  });

  it('says which key of a rule is wrong', async () => {
    const mark = (await addMark()).body;
    const rule = { ...DEFAULT_RULE, tone: { rule: 'aotu' } };
    const answer = await test.api
      .post('/api/presets')
      .send({ name: 'Auto', markId: mark.id, rule });
    expect(answer.status).toBe(400);
    expect(answer.body.message).toContain('rule.tone.rule: expected one of auto, fixed');
  });

  it('are kept in the order they were put, with favourites and how often they were used', async () => {
    const mark = (await addMark()).body;
    const ids: number[] = [];
    for (const name of ['A', 'B', 'C']) {
      const wish = { name, markId: mark.id, rule: DEFAULT_RULE };
      ids.push((await test.api.post('/api/presets').send(wish)).body.id);
    }
    const [a, b, c] = ids;
    const ordered = await test.api.put('/api/presets-order').send({ ids: [c, a] });
    expect(ordered.body.slice(0, 2).map(({ id }: { id: number }) => id)).toEqual([c, a]);
    expect(ordered.body.at(-1).id).toBe(b);
    await test.api.patch(`/api/presets/${b}`).send({ favourite: true }).expect(200);
    const all = (await test.api.get('/api/presets')).body as PresetView[];
    expect(all.find(({ id }) => id === b)).toMatchObject({
      favourite: true,
      uses: 0,
      usedAt: null,
    });
  });

  it('go out as files that come in again as they were', async () => {
    const mark = (await addMark()).body;
    const rule = { ...DEFAULT_RULE, fallbacks: ['top'], rescue: 'halo' };
    const wish = { name: 'Low, right?', markId: mark.id, rule };
    const made = await test.api.post('/api/presets').send(wish);
    const file = await test.api.get(`/api/presets/${made.body.id}/file`).expect(200);
    expect(file.headers['content-disposition']).toContain('.preset.json');
    const { format, version, name, ...back } = presetFileSchema.parse(JSON.parse(file.text));
    expect([format, version, name, back]).toEqual(['light-crest/preset', 1, wish.name, rule]);
  });
});

describe('folders', () => {
  it('lists only what is allowed, links resolved', async () => {
    mkdirSync(join(test.pictures, 'Shore'));
    symlinkSync('/etc', join(test.pictures, 'way-out'));
    const roots = await test.api.get('/api/folders');
    expect(roots.body.folders.map((f: { path: string }) => f.path)).toContain(test.pictures);
    const inside = await test.api.get('/api/folders').query({ path: test.pictures });
    expect(inside.body.folders.map((f: { name: string }) => f.name)).toEqual(['Shore']);
    for (const path of [
      '/etc',
      join(test.pictures, 'way-out'),
      join(test.pictures, '../..'),
      'Shore',
    ]) {
      expect((await test.api.get('/api/folders').query({ path })).status).toBe(422);
    }
  });

  it('shows folders that are not allowed where one is to be chosen, and allows what is made', async () => {
    const away = temporaryFolder();
    mkdirSync(join(away, 'Inner'));
    const ask = (path: string) => test.api.get('/api/folders').query({ path, anywhere: 'true' });
    const seen = (await ask(away).expect(200)).body;
    expect([seen.isAllowed, seen.folders[0].name]).toEqual([false, 'Inner']);
    const path = join(away, 'Exports');
    expect((await test.api.post('/api/folders').send({ path })).status).toBe(422);
    expect(existsSync(path)).toBe(false);
    const made = await test.api.post('/api/folders').send({ path, allow: true }).expect(201);
    expect(made.body.isAllowed).toBe(true);
    // That folder and no other.
    expect((await ask(away)).body.isAllowed).toBe(false);
    const begin = (await test.api.get('/api/folders')).body.folders;
    expect(begin).toContainEqual({ kind: 'allowed', name: path, path });
    expect((await ask(join(away, 'nowhere'))).status).toBe(422);
    rmSync(away, { recursive: true });
  });

  it('does not write deliveries outside, not even through a link', async () => {
    const rule = DEFAULT_DELIVERY;
    const through = join(test.pictures, 'way-out', 'x');
    for (const folder of ['/etc', through]) {
      const answer = await test.api.post('/api/deliveries').send({ name: 'Out', rule, folder });
      expect(answer.status).toBe(422);
      expect(answer.body.message).toContain('not in an allowed folder');
    }
  });

  it('makes a folder inside an allowed one', async () => {
    const path = join(test.pictures, 'Exports ü');
    await test.api.post('/api/folders').send({ path }).expect(201);
    expect(existsSync(path)).toBe(true);
    expect((await test.api.post('/api/folders').send({ path })).body.message).toContain(
      'there already',
    );
  });

  it('allows only folders that are there', async () => {
    writeFileSync(join(test.pictures, 'file.txt'), 'x');
    const settings = (await test.api.get('/api/settings')).body;
    delete settings.configured;
    for (const [folder, sentence] of [
      ['relative', 'the whole path'],
      ['/nowhere/at/all', 'is not there'],
      [join(test.pictures, 'file.txt'), 'is a file'],
    ]) {
      const answer = await test.api.put('/api/settings').send({ ...settings, folders: [folder] });
      expect(answer.status).toBe(400);
      expect(answer.body.details['folders.0']).toContain(sentence);
    }
  });
});
