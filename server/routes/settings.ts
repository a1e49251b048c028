import { mkdir, readdir, stat } from 'node:fs/promises';
import { basename, dirname, isAbsolute, join } from 'node:path';
import { Router } from 'express';
import { EXAMPLE_PHOTOS } from '#demo/examples';
import { folderQuery, newFolderBody, type FolderView } from '#core/contract/http';
import { settingsBody } from '#core/contract/settings';
import { HttpError, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import type { Versioned } from '../http/versionMakers.ts';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { folderSentence } from '../imports/folderSentence.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';
import type { RouteParts } from './parts.ts';

/** Settings, and the folders of the computer that they open. */
export function settingsRoutes({ tables, allowed, config, paths, versions }: RouteParts): Router {
  const router = Router();

  router.get('/settings', (_request, response) => {
    response.json(view());
  });

  router.put('/settings', async (request, response) => {
    const { version: base, ...settings } = validated(settingsBody, request.body);
    // One that was allowed before stays so while its disk is away.
    const known = new Set(tables.settings.get().folders);
    for (const [index, folder] of settings.folders.entries()) {
      const problem = known.has(folder) ? null : await folderProblem(folder);
      if (problem) throw new HttpError(400, 'invalid', problem, { [`folders.${index}`]: problem });
    }
    versions.check(request, versioned(), base);
    tables.settings.set({ ...settings, folders: [...new Set(settings.folders)] });
    versions.note(request, versioned());
    response.json(view());
  });

  function versioned(): Versioned {
    return { what: 'settings', id: null, name: 'Settings', version: tables.settings.version() };
  }

  function view() {
    const version = tables.settings.version();
    return { ...tables.settings.get(), configured: config.folders, version };
  }

  router.get('/folders', async (request, response) => {
    const { path } = validated(folderQuery, request.query);
    response.json(path ? await listFolder(path) : rootFolders());
  });

  router.post('/folders', async (request, response) => {
    const { path } = validated(newFolderBody, request.body);
    const folder = await allowed.resolve(path);
    if (!folder.ok) throw unusable(folder.reason);
    try {
      await mkdir(folder.value);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'EEXIST')
        throw unusable(`${path} is there already.`);
      throw unusable(storageSentence(folder.value, error));
    }
    response.status(201).json(await listFolder(folder.value));
  });

  function rootFolders(): FolderView {
    const roots = allowed.list().filter((root) => ![paths.exports, EXAMPLE_PHOTOS].includes(root));
    return {
      path: null,
      parent: null,
      folders: roots.map((root) => ({ name: root, path: root })),
      photoCount: 0,
    };
  }

  async function listFolder(path: string): Promise<FolderView> {
    const real = await allowed.resolve(path);
    if (!real.ok) throw unusable(real.reason);
    const entries = await readdir(real.value, { withFileTypes: true }).catch((error: unknown) => {
      throw unusable(folderSentence(path, error));
    });
    const visible = entries.filter((entry) => !entry.name.startsWith('.'));
    const parent = await allowed.resolve(dirname(real.value));
    return {
      path: real.value,
      parent: parent.ok ? parent.value : null,
      folders: visible
        .filter((entry) => entry.isDirectory())
        .map(({ name }) => ({ name, path: join(real.value, name) }))
        .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
      photoCount: visible.filter((entry) => entry.isFile() && PHOTO_ENDING.test(entry.name)).length,
    };
  }

  return router;
}

/** What looking at a folder may take. */
const LOOK_MS = 10_000;

async function folderProblem(folder: string): Promise<string | null> {
  if (!isAbsolute(folder)) return `Expected a full path to a folder, found "${folder}".`;
  try {
    const found = await withinTime(LOOK_MS, folder, () => stat(folder));
    return found.isDirectory() ? null : `${basename(folder)} is a file, not a folder.`;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return `${folder} is not there.`;
    return folderSentence(folder, error);
  }
}
