import type { ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { failure, type Result } from '#core/result';
import type { MarkSource } from '../imaging/compose.ts';
import { forkModule, type ChildWork } from '../imaging/childProcess.ts';
import type { Judged, MarkedSubject, Proxy } from '../imaging/judgePhoto.ts';
import type { RegionJob } from '../imaging/photoRegion.ts';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { RenderedPhoto, RenderJob } from '../imaging/renderPhoto.ts';

/** A file that never changes, or the artwork itself. */
export type EngineMark = ArtworkFile | MarkSource;

/** A photo whose readability is asked for, by its proxy. */
export interface JudgeJob {
  readonly proxy: Proxy;
  readonly subject: MarkedSubject;
}

/** What the imaging process does. */
export type EngineTask =
  | { readonly do: 'render'; readonly job: RenderJob; readonly mark: EngineMark }
  | { readonly do: 'judge'; readonly job: JudgeJob; readonly mark: EngineMark }
  | { readonly do: 'look'; readonly job: RegionJob; readonly mark: EngineMark | null };

export type EngineRequest = EngineTask & { readonly id: number };

export interface EngineAnswer {
  readonly id: number;
  readonly result: Result<unknown>;
}

const processPath = fileURLToPath(new URL('./engineProcess.ts', import.meta.url));

/** The imaging process as seen from the server: several jobs at once, started when first needed. */
export class Engine {
  private child: ChildProcess | null = null;
  private readonly pending = new Map<number, (result: Result<unknown>) => void>();
  private lastId = 0;

  /** @param work what it is mostly asked for, so that it takes its memory accordingly */
  constructor(private readonly work: ChildWork = 'photos') {}

  /** An output, in a temporary file. */
  render(job: RenderJob, mark: EngineMark): Promise<Result<RenderedPhoto>> {
    return this.ask({ do: 'render', job, mark });
  }

  /** How a mark reads on a photo, with what is chosen by that. */
  judge(job: JudgeJob, mark: EngineMark): Promise<Result<Judged>> {
    return this.ask({ do: 'judge', job, mark });
  }

  /** Part of an output as a PNG. */
  look(job: RegionJob, mark: EngineMark | null): Promise<Result<Uint8Array>> {
    return this.ask({ do: 'look', job, mark });
  }

  close(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  private ask<T>(task: EngineTask): Promise<Result<T>> {
    const id = ++this.lastId;
    const child = this.running();
    return new Promise((resolve) => {
      this.pending.set(id, resolve as (result: Result<unknown>) => void);
      child.send({ ...task, id } satisfies EngineRequest);
    });
  }

  private running(): ChildProcess {
    if (this.child) return this.child;
    const child = forkModule(processPath, this.work);
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
