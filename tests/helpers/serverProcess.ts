import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

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

export async function startServer(
  dataFolder: string,
  folders: string,
  /** One that is free, unless it is told. */
  port = '0',
): Promise<ServerProcess> {
  // Built, it starts in a fifth of the time; whoever starts it often says so.
  const built = process.env.LIGHT_CREST_BUILT;
  const entry = built ? [join(built, 'server.js')] : ['--import', 'tsx', 'server/main.ts'];
  const child: ChildProcess = spawn(process.execPath, entry, {
    cwd: ROOT,
    env: {
      ...process.env,
      LIGHT_CREST_DATA: dataFolder,
      LIGHT_CREST_FOLDERS: folders,
      LIGHT_CREST_PORT: port,
      MALLOC_ARENA_MAX: '2',
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
