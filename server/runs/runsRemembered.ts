import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { RunNames } from './runNamesInUse.ts';
import { RunPace } from './runPace.ts';

/** What a server knows of runs beside what is in the database: names in use, and how fast they go. */
export class RunsRemembered {
  private readonly names = new Map<number, RunNames>();
  private readonly paces = new Map<number, RunPace>();

  constructor(private readonly tables: Tables) {}

  namesOf(run: RunRow): RunNames {
    let names = this.names.get(run.id);
    if (!names) this.names.set(run.id, (names = new RunNames(run, this.tables)));
    return names;
  }

  /** Begins to count where it did not. */
  pace(runId: number): RunPace {
    let pace = this.paces.get(runId);
    if (!pace) this.paces.set(runId, (pace = new RunPace()));
    return pace;
  }

  paceSoFar(runId: number): RunPace | null {
    return this.paces.get(runId) ?? null;
  }

  /** @param sources of photos that came to a run */
  grew(runId: number, sources: readonly string[]): void {
    this.names.get(runId)?.grew(sources);
  }

  goesOn(runId: number): void {
    this.names.get(runId)?.forgetSources();
    this.paces.get(runId)?.resume();
  }

  forget(runId: number): void {
    this.names.delete(runId);
    this.paces.delete(runId);
  }
}
