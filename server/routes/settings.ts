import { mkdir, readdir, stat } from 'node:fs/promises';
import { basename, dirname, isAbsolute, join, resolve } from 'node:path';
import { Router } from 'express';
import { EXAMPLE_PHOTOS } from '#demo/examples';
import {
  folderQuery,
  newFolderBody,
  type FolderEntry,
  type FolderView,
  type ToolsView,
} from '#core/contract/http';
import { settingsBody } from '#core/contract/settings';
import { HttpError, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import type { Versioned } from '../http/versionMakers.ts';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { hasJpegTools, TOOLS_COMMAND } from '../imaging/untouched/jpegTools.ts';
import { folderSentence } from '../imports/folderSentence.ts';
import { diskPlaces, homePlaces } from '../storage/folderPlaces.ts';
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

  router.get('/tools', (_request, response) => {
    const tools: ToolsView = { untouched: hasJpegTools() ? null : TOOLS_COMMAND };
    response.json(tools);
  });

  router.get('/folders', async (request, response) => {
    const { path, anywhere } = validated(folderQuery, request.query);
    if (!path) return void response.json(await beginning());
    const known = await allowed.resolve(path);
    if (!known.ok && !anywhere) throw unusable(known.reason);
    response.json(await listFolder(known.ok ? known.value : resolve(path)));
  });

  /** Made because somebody typed its name; it is allowed with that, where it is asked for. */
  router.post('/folders', async (request, response) => {
    const { path, allow } = validated(newFolderBody, request.body);
    const known = await allowed.resolve(path);
    if (!known.ok && !(allow && isAbsolute(path))) throw unusable(known.reason);
    const folder = known.ok ? known.value : resolve(path);
    try {
      await mkdir(folder);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'EEXIST')
        throw unusable(`${path} is there already.`);
      throw unusable(storageSentence(folder, error));
    }
    if (!known.ok) {
      const settings = tables.settings.get();
      tables.settings.set({ ...settings, folders: [...settings.folders, folder] });
      versions.note(request, versioned());
    }
    response.status(201).json(await listFolder(folder));
  });

  /** Home, disks, what was used last, what is allowed: each once. */
  async function beginning(): Promise<FolderView> {
    const last = [
      ...tables.imports.lastFolders(LAST_FOLDERS),
      ...tables.deliveries.all().flatMap(({ folder }) => folder ?? []),
    ];
    const own = [paths.exports, EXAMPLE_PHOTOS];
    const entries: FolderEntry[] = [
      ...last.map((path) => ({ kind: 'last' as const, name: path, path })),
      ...(await homePlaces()),
      ...(await diskPlaces()),
      ...allowed.list().map((path) => ({ kind: 'allowed' as const, name: path, path })),
    ];
    const folders = entries
      .filter(({ path }) => !own.includes(path))
      .filter(({ path }, index, all) => all.findIndex((some) => some.path === path) === index);
    return { path: null, parent: null, folders, photoCount: 0, isAllowed: false };
  }

  async function listFolder(path: string): Promise<FolderView> {
    const entries = await withinTime(LOOK_MS, path, () =>
      readdir(path, { withFileTypes: true }),
    ).catch((error: unknown) => {
      throw unusable(folderSentence(path, error));
    });
    const visible = entries.filter((entry) => !entry.name.startsWith('.'));
    const up = dirname(path);
    return {
      path,
      parent: up === path ? null : up,
      folders: visible
        .filter((entry) => entry.isDirectory())
        .map(({ name }) => ({ name, path: join(path, name) }))
        .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
      photoCount: visible.filter((entry) => entry.isFile() && PHOTO_ENDING.test(entry.name)).length,
      isAllowed: (await allowed.resolve(path)).ok,
    };
  }

  return router;
}

/** How many of the folders that were read last are offered. */
const LAST_FOLDERS = 5;

/** What looking at a folder may take. */
const LOOK_MS = 10_000;

async function folderProblem(folder: string): Promise<string | null> {
  if (!isAbsolute(folder))
    return `"${folder}" is not the whole path of a folder. Choose it instead of typing it.`;
  try {
    const found = await withinTime(LOOK_MS, folder, () => stat(folder));
    return found.isDirectory() ? null : `${basename(folder)} is a file, not a folder.`;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return `${folder} is not there.`;
    return folderSentence(folder, error);
  }
}
