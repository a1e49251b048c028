import { spawn, spawnSync } from 'node:child_process';
import { accessSync, constants } from 'node:fs';
import { delimiter, join } from 'node:path';

/**
 * The programs of the JPEG library that move and encode blocks (Debian's libjpeg-turbo-progs). They
 * are no part of Node.js or its packages, so they may be missing.
 */
const TOOLS = Object.freeze(['jpegtran', 'cjpeg'] as const);
type Tool = (typeof TOOLS)[number];

/** What brings them, where Debian's packages are. */
export const TOOLS_COMMAND = 'sudo apt-get install libjpeg-turbo-progs';

/** What the largest photo takes, many times over. */
const TOOL_MS = 60_000;

/** Looked for anew each time: they may be installed while the server runs. */
export function hasJpegTools(): boolean {
  const folders = (process.env.PATH ?? '').split(delimiter).filter(Boolean);
  return TOOLS.every((tool) => folders.some((folder) => canRun(join(folder, tool))));
}

function canRun(path: string): boolean {
  try {
    accessSync(path, constants.X_OK);
    return true;
  } catch {
    return false;
  }
}

/**
 * @param input for standard input, where the words name no file
 * @returns what was written to standard output
 * @throws what the tool says; it does so for a damaged file as well
 */
export function runTool(tool: Tool, words: readonly string[], input?: Uint8Array): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const child = spawn(tool, words, { timeout: TOOL_MS, killSignal: 'SIGKILL' });
    const written: Buffer[] = [];
    const said: Buffer[] = [];
    child.stdout.on('data', (chunk: Buffer) => written.push(chunk));
    child.stderr.on('data', (chunk: Buffer) => said.push(chunk));
    child.on('error', reject);
    // A tool that ended early has closed its input; how it ended tells more than that.
    child.stdin.on('error', () => undefined);
    child.stdin.end(input);
    child.on('close', (status) => {
      if (status === 0) resolve(Buffer.concat(written));
      else reject(new Error(Buffer.concat(said).toString('utf8').trim() || `${tool} was stopped`));
    });
  });
}

/** The same, while nothing else goes on in this process. */
export function runToolNow(tool: Tool, words: readonly string[], input: Uint8Array): Buffer {
  const options = { input, timeout: TOOL_MS, killSignal: 'SIGKILL', maxBuffer: Infinity } as const;
  const { status, stdout, stderr, error } = spawnSync(tool, words, options);
  if (error) throw error;
  if (status === 0) return stdout;
  throw new Error(stderr.toString('utf8').trim() || `${tool} was stopped`);
}
