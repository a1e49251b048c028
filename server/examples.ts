import { readFile } from 'node:fs/promises';
import { EXAMPLE_BATCH, EXAMPLE_MARKS, EXAMPLE_PHOTOS, EXAMPLE_PRESETS } from '#demo/examples';
import type { ExamplesView } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { failure, success, type Result } from '#core/result';
import type { Tables } from './db/tables.ts';
import type { FolderImports } from './imports/folderImports.ts';
import { removableMark } from './markViews.ts';
import type { Marks } from './marks.ts';

export interface ExamplesHouse {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly imports: FolderImports;
}

/**
 * Photos, marks and presets to try everything with, laid into a library at one click and taken away at
 * another. The photos are read where they were installed, as a folder is; what a photographer made with
 * the examples and still uses stays.
 */
export class Examples {
  private laying: Promise<Result<number>> | null = null;

  constructor(private readonly house: ExamplesHouse) {}

  view(): ExamplesView {
    return { isThere: this.house.tables.examples.get() !== null, batchId: this.batchId() };
  }

  /** Null also where the batch was deleted by itself. */
  private batchId(): number | null {
    const { examples, batches } = this.house.tables;
    return batches.get(examples.get()?.batchId ?? 0)?.id ?? null;
  }

  /** @returns the batch; asked twice, the same one */
  lay(): Promise<Result<number>> {
    this.laying ??= this.laid().finally(() => (this.laying = null));
    return this.laying;
  }

  private async laid(): Promise<Result<number>> {
    const { imports } = this.house;
    const before = this.batchId();
    const batchId = before ?? (await this.added());
    if (typeof batchId !== 'number') return batchId;
    // Photos that are in the batch already are known by their path.
    const begun = await imports.begin(batchId, EXAMPLE_PHOTOS);
    return begun.ok ? success(batchId) : begun;
  }

  private async added(): Promise<number | Result<never>> {
    const { tables, marks } = this.house;
    // Where only the batch was deleted: what came with it does not come twice.
    await this.takeAwayRest();
    const ids = new Map<string, number>();
    for (const { key, name, path } of EXAMPLE_MARKS) {
      const added = await marks.add(await readFile(path), name);
      if (!added.ok) return added;
      const taken = tables.marks.all().filter(({ id }) => id !== added.value);
      tables.marks.rename(added.value, nameBeside(name, taken));
      ids.set(key, added.value);
      // Noted as they come: after a kill in between they do not come twice.
      tables.examples.set({ batchId: null, markIds: [...ids.values()], presetIds: [] });
    }
    return tables.together(() => {
      const presetIds = EXAMPLE_PRESETS.map(({ name, mark, rule }) => {
        const markId = ids.get(mark);
        if (markId === undefined) throw new Error(`The examples have no mark "${mark}".`);
        return tables.presets.insert(nameBeside(name, tables.presets.all()), markId, rule);
      });
      const name = nameBeside(EXAMPLE_BATCH, tables.batches.all());
      const delivery = tables.deliveries.all()[0]?.id ?? null;
      const batchId = tables.batches.insert(
        name,
        presetIds[0] ?? null,
        delivery === null ? [] : [delivery],
      );
      tables.examples.set({ batchId, markIds: [...ids.values()], presetIds });
      return batchId;
    });
  }

  /** Takes away what nothing of the photographer's own needs. The batch is removed by its own route. */
  async takeAway(removeBatch: (id: number) => Promise<void>): Promise<Result<void>> {
    const row = this.house.tables.examples.get();
    if (!row) return failure('The examples are not there any more.');
    if (row.batchId !== null) await removeBatch(row.batchId);
    await this.takeAwayRest();
    return success(undefined);
  }

  /** Presets and marks, but for those that a delivery, a preset or a run still needs. */
  private async takeAwayRest(): Promise<void> {
    const { tables, marks } = this.house;
    const row = tables.examples.get();
    if (!row) return;
    for (const id of row.presetIds) {
      const isUsed =
        tables.deliveries.namesUsingPreset(id).length > 0 ||
        tables.runs.underWayWith('preset', id).length > 0;
      if (isUsed || !tables.presets.get(id)) continue;
      tables.together(() => {
        tables.adjustments.forgetPreset(id);
        tables.presets.remove(id);
      });
    }
    for (const id of row.markIds) {
      const mark = tables.marks.get(id);
      if (mark && removableMark(mark, tables).ok) await marks.remove(mark.id);
    }
    tables.examples.remove();
  }
}

function nameBeside(name: string, others: readonly { readonly name: string }[]): string {
  return freeName(
    name,
    others.map((other) => other.name),
  );
}
