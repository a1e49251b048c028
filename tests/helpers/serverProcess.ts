import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { builtModule } from './built.ts';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** A real server process on a free port. */
export interface ServerProcess {
  readonly address: string;
  readonly pid: number;
  /** Without warning, as a power cut would. */
  readonly kill: () => Promise<void>;
  /** As the system asks for it. */
  readonly stop: () => Promise<void>;
  /** All it has written to its output so far. */
  readonly said: () => string;
}

/** Words for Node to start a server with. */
export function serverEntry(): string[] {
  const built = builtModule('server');
  return built === undefined ? ['--import', 'tsx', 'server/main.ts'] : [built];
}

export async function startServer(
  dataFolder: string,
  folders: string,
  /** One that is free, unless it is told. */
  port = '0',
  env: NodeJS.ProcessEnv = {},
): Promise<ServerProcess> {
  const child: ChildProcess = spawn(process.execPath, serverEntry(), {
    cwd: ROOT,
    env: {
      ...process.env,
      LIGHT_CREST_DATA: dataFolder,
      LIGHT_CREST_FOLDERS: folders,
      LIGHT_CREST_PORT: port,
      MALLOC_ARENA_MAX: '2',
      ...env,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const gone = new Promise<void>((done) => child.on('exit', () => done()));
  let said = '';
  const address = await new Promise<string>((done, fail) => {
    child.stdout?.on('data', (text: Buffer) => {
      said += text.toString();
      const found = /at (http:\S+)/.exec(said);
      if (found) done(found[1]);
    });
    void gone.then(() => fail(new Error(`The server ended early: ${said}`)));
  });
  const kill = async (): Promise<void> => {
    child.kill('SIGKILL');
    await gone;
  };
  const stop = async (): Promise<void> => {
    child.kill('SIGTERM');
    await gone;
  };
  return { address, pid: child.pid ?? 0, kill, stop, said: () => said };
}
