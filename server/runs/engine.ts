import type { ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { failure, type Result } from '#core/result';
import type { MarkSource } from '../imaging/compose.ts';
import { forkModule } from '../imaging/childProcess.ts';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { RenderedPhoto, RenderJob } from '../imaging/renderPhoto.ts';

export interface EngineRequest {
  readonly id: number;
  readonly job: RenderJob;
  /** A file that never changes, or the artwork itself. */
  readonly mark: ArtworkFile | MarkSource;
}

export interface EngineAnswer {
  readonly id: number;
  readonly result: Result<RenderedPhoto>;
}

const processPath = fileURLToPath(new URL('./engineProcess.ts', import.meta.url));

/** The imaging process as seen from the server: several jobs at once, started when first needed. */
export class Engine {
  private child: ChildProcess | null = null;
  private readonly pending = new Map<number, (result: Result<RenderedPhoto>) => void>();
  private lastId = 0;

  render(job: RenderJob, mark: EngineRequest['mark']): Promise<Result<RenderedPhoto>> {
    const id = ++this.lastId;
    const child = this.running();
    return new Promise((resolve) => {
      this.pending.set(id, resolve);
      child.send({ id, job, mark } satisfies EngineRequest);
    });
  }

  close(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  private running(): ChildProcess {
    if (this.child) return this.child;
    const child = forkModule(processPath);
    this.child = child;
    child.on('message', ({ id, result }: EngineAnswer) => {
      this.pending.get(id)?.(result);
      this.pending.delete(id);
    });
    child.on('exit', () => {
      if (this.child === child) this.child = null;
      const lost = [...this.pending.values()];
      this.pending.clear();
      for (const resolve of lost) {
        resolve(
          failure('The imaging process ended unexpectedly, perhaps for want of memory. Retry.'),
        );
      }
    });
    return child;
  }
}
