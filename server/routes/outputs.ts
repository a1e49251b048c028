import { existsSync, statSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { ZipArchive } from 'archiver';
import { Router, type Response } from 'express';
import { zipQuery } from '#core/contract/http';
import { safeName } from '#core/delivery/namePattern';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import { notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { ContactSheet } from '../runs/contactSheet.ts';
import { deliveryOf } from '../runs/runNames.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { idOf, type RouteParts } from './parts.ts';

interface ZipEntry {
  readonly path: string;
  /** Within the ZIP. */
  readonly name: string;
}

interface FoundOutput {
  readonly item: RunItemRow;
  readonly path: string;
}

/** What runs have written: looked at, and handed out one by one or together. */
export function outputRoutes({ tables, allowed, paths, imaging, log }: RouteParts): Router {
  const router = Router();

  const runOf = (id: number): RunRow => {
    const run = tables.runs.get(id);
    if (!run) throw notFound('That run');
    return run;
  };

  router.get('/outputs/:id/tile', async (request, response) => {
    const { item, path } = await outputOf(idOf(request));
    const tile = await tileOf(item, path);
    // Not for ever: a retry writes a new output under the same id.
    response.set('Cache-Control', 'private, no-cache').type('jpeg');
    response.sendFile(tile, { dotfiles: 'allow' });
  });

  router.get('/outputs/:id/view', async (request, response) => {
    const { path } = await outputOf(idOf(request));
    response.set('Cache-Control', 'private, no-cache');
    if (/\.tif$/.test(path)) {
      const jpeg = await imaging.outputAsJpeg(path);
      if (!jpeg.ok) throw unusable(jpeg.reason);
      response.type('jpeg').send(Buffer.from(jpeg.value));
      return;
    }
    response.sendFile(path, { dotfiles: 'allow' });
  });

  /** The photo of an output in the output's size, without the mark. */
  router.get('/outputs/:id/before', async (request, response) => {
    const { item } = await outputOf(idOf(request));
    const { sourcePath, result } = item;
    const isOwn = isWithin(paths.photos, sourcePath);
    if (!isOwn && !(await allowed.resolve(sourcePath)).ok) throw notFound(item.sourceName);
    if (!result) throw notFound('That output');
    const jpeg = await imaging.sourceAsJpeg(sourcePath, result.frame);
    if (!jpeg.ok) throw unusable(jpeg.reason);
    response.set('Cache-Control', 'private, no-cache').type('jpeg').send(Buffer.from(jpeg.value));
  });

  router.get('/outputs/:id/file', async (request, response) => {
    const { path } = await outputOf(idOf(request));
    response.download(path, basename(path), { dotfiles: 'allow' });
  });

  router.get('/runs/:id/zip', async (request, response) => {
    const run = runOf(idOf(request));
    const isOne = run.deliveries.length === 1;
    const { of } = validated(zipQuery, request.query);
    const isWanted = ({ delivery }: { readonly delivery: number }): boolean =>
      of === 'all' || run.deliveries[delivery - 1].zip === true;
    const found = (await outputsOf(run)).filter(({ item }) => isWanted(item));
    const outputs = found.map(({ item, path }): ZipEntry => {
      // Deliveries into folders of their own may use one name twice.
      const folder = isOne ? '' : `${safeName(deliveryOf(run, item).name)}/`;
      return { path, name: `${folder}${basename(path)}` };
    });
    const documents = tables.documents.ofRun(run.id).filter(isWanted);
    for (const { delivery, status, output } of documents) {
      if (status !== 'written' || output === null || !(await isUsableOutput(output))) continue;
      const folder = isOne ? '' : `${safeName(run.deliveries[delivery - 1].name)}/`;
      outputs.push({ path: output, name: `${folder}${basename(output)}` });
    }
    if (outputs.length === 0)
      throw unusable('This run has no outputs that could be put into a ZIP.');
    response.attachment(`${fileNameOf(run)}.zip`).type('zip');
    await sendZip(outputs, response);
  });

  async function documentOf(run: RunRow, number: string): Promise<string> {
    const document = tables.documents.ofRun(run.id).find(({ delivery, status }) => {
      return String(delivery) === number && status === 'written';
    });
    const path = document?.output ?? null;
    if (path === null) throw notFound('That document');
    if (!(await isUsableOutput(path))) throw notFound(basename(path));
    return path;
  }

  /** A show, played from where it was written. */
  router.get('/runs/:id/shows/:delivery/*file', async (request, response) => {
    const { delivery, file } = request.params as unknown as { delivery: string; file: string[] };
    const root = await documentOf(runOf(idOf(request)), delivery);
    response.set('Cache-Control', 'private, no-cache');
    response.sendFile(file.join('/'), { root, dotfiles: 'deny' });
  });

  /** What a run has made of many photos together; of several files the first. */
  router.get('/runs/:id/documents/:delivery', async (request, response) => {
    const path = await documentOf(runOf(idOf(request)), request.params.delivery);
    response.set('Cache-Control', 'private, no-cache');
    response.attachment(basename(path)).sendFile(path, { dotfiles: 'allow' });
  });

  /** The outputs of a run on pages, to be looked through and marked on paper. */
  router.get('/runs/:id/contacts', async (request, response) => {
    const run = runOf(idOf(request));
    const outputs = await outputsOf(run);
    if (outputs.length === 0) throw unusable('This run has no outputs that could be shown.');
    const sheet = new ContactSheet({ title: run.batchName, made: run.finishedAt ?? run.createdAt });
    for (const { item, path } of outputs) {
      const picture = await tileOf(item, path).catch(() => null);
      sheet.add(basename(path), picture === null ? null : await readFile(picture));
    }
    const pdf = await sheet.finished();
    response
      .attachment(`${fileNameOf(run)} contacts.pdf`)
      .type('pdf')
      .send(Buffer.from(pdf));
  });

  function fileNameOf({ batchName, deliveries }: RunRow): string {
    const delivery = deliveries.length === 1 ? ` ${deliveries[0].name}` : '';
    return safeName(`${batchName}${delivery}`) || 'Light Crest';
  }

  /** What a run has written and is still there. */
  async function outputsOf(run: RunRow): Promise<FoundOutput[]> {
    const found: FoundOutput[] = [];
    for (const item of tables.items.ofRun(run.id)) {
      const { status, output: path } = item;
      if (status === 'written' && path !== null && (await isUsableOutput(path))) {
        found.push({ item, path });
      }
    }
    return found;
  }

  /** Streamed as it is made, and stored as it is: photos do not shrink any further. */
  async function sendZip(outputs: readonly ZipEntry[], response: Response): Promise<void> {
    const zip = new ZipArchive({ store: true });
    zip.on('error', (error: Error) => {
      log.error({ err: error }, 'a ZIP ended early');
      response.destroy(error);
    });
    response.on('close', () => zip.destroy());
    zip.pipe(response);
    for (const { path, name } of outputs) {
      if (statSync(path).isDirectory()) zip.directory(path, name);
      else zip.file(path, { name });
    }
    await zip.finalize();
  }

  /** @returns where the small picture of an output lies; it is made where it was not asked for yet */
  async function tileOf(item: RunItemRow, path: string): Promise<string> {
    const tile = paths.outputTile(item.id);
    if (existsSync(tile)) return tile;
    const made = await imaging.outputTile(path);
    if (!made.ok) throw unusable(`${basename(path)} cannot be opened any more.`);
    // Under another name first: a second request must not be given half of it.
    const beside = paths.freshIncoming('tile');
    await writeFile(beside, made.value);
    await rename(beside, tile);
    return tile;
  }

  async function outputOf(itemId: number): Promise<FoundOutput> {
    const item = tables.items.get(itemId);
    if (!item?.output || (item.status !== 'written' && item.status !== 'skipped')) {
      throw notFound('That output');
    }
    if (!(await isUsableOutput(item.output))) throw notFound(basename(item.output));
    return { item, path: item.output };
  }

  async function isUsableOutput(path: string): Promise<boolean> {
    return (await allowed.resolve(path)).ok && existsSync(path);
  }

  return router;
}
