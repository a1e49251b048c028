import { delimiter, join, resolve } from 'node:path';
import type { Pace } from './inbox/folderWatch.ts';
import type { CrewConfig } from './workers/openCrew.ts';
import { photosAtOnce } from './imaging/limits.ts';
import { PROJECT_FOLDER } from './projectFolder.ts';

/** What can be set from outside, read once at start. */
export interface Config {
  /** Database, previews, uploads, marks and exports live below this folder and nowhere else. */
  readonly dataFolder: string;
  readonly port: number;
  /** Loopback only: there are no accounts, whoever reaches the port may use it. */
  readonly host: '127.0.0.1';
  /** Folders that may be read and written besides the ones allowed in the settings. */
  readonly folders: readonly string[];
  readonly importsAtOnce: number;
  /** Null: all photos are made by this machine alone. */
  readonly crew: CrewConfig | null;
  /** How long files of watched folders are waited for, where that is other than usual. */
  readonly inboxPace?: Partial<Pace> | undefined;
  /** The module imaging processes start with, where it is not the one beside this server's own. */
  readonly imagingProcess?: string | undefined;
  /** Built page, or null where a development server serves it. */
  readonly pageFolder: string | null;
  readonly logLevel: string;
}

export const DEFAULT_PORT = 4310;

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  return {
    dataFolder: resolve(env.LIGHT_CREST_DATA ?? join(PROJECT_FOLDER, '.data', 'own')),
    port: readPort(env.LIGHT_CREST_PORT),
    host: '127.0.0.1',
    folders: (env.LIGHT_CREST_FOLDERS ?? '')
      .split(delimiter)
      .filter(Boolean)
      .map((at) => resolve(at)),
    importsAtOnce: photosAtOnce(),
    crew: env.LIGHT_CREST_REDIS
      ? {
          redis: env.LIGHT_CREST_REDIS,
          redisCa: env.LIGHT_CREST_REDIS_CA,
          roots: env.LIGHT_CREST_ROOTS ?? '',
          store: env.LIGHT_CREST_STORE,
        }
      : null,
    pageFolder: env.LIGHT_CREST_DEV ? null : join(PROJECT_FOLDER, 'dist', 'page'),
    logLevel: env.LIGHT_CREST_LOG ?? 'warn',
  };
}

function readPort(text: string | undefined): number {
  if (text === undefined) return DEFAULT_PORT;
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    throw new Error(`Expected LIGHT_CREST_PORT to be a port from 0 to 65535, found "${text}".`);
  }
  return port;
}
