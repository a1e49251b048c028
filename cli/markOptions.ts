import { MARKS_MAX } from '#core/contract/preset';
import { CallError } from './exit.ts';
import type { MarkOption } from './inputs.ts';

/**
 * The marks of a call, in order, each with the preset that is named beside it: `--mark A --preset P --mark B
 * --preset Q`. A preset before the first mark is that of the first mark.
 */
export class MarkOptions {
  private readonly named: { readonly mark: string; preset: string | null }[] = [];
  private early: string | null = null;

  readonly mark = (path: string): string => {
    this.named.push({ mark: path, preset: this.early });
    this.early = null;
    return path;
  };

  readonly preset = (path: string): string => {
    const last = this.named.at(-1);
    if (last && last.preset === null) last.preset = path;
    else if (this.early === null) this.early = path;
    else throw new CallError(`the preset ${this.early} stands beside no mark.`);
    return path;
  };

  all(): MarkOption[] {
    if (this.early !== null) throw new CallError(`the preset ${this.early} stands beside no mark.`);
    if (this.named.length <= MARKS_MAX) return this.named;
    throw new CallError(`expected at most ${MARKS_MAX} marks, found ${this.named.length}.`);
  }
}
