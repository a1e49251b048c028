import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import type { FileType } from '#core/contract/delivery';
import { inOrder } from '#core/batch/benchMarks';
import { NOTHING_BESIDE, type Beside, type TryView } from '#core/contract/http';
import { adjustmentFor } from '#core/placement/adjustment';
import { outputName } from '#core/delivery/namePattern';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import type { Size } from '#core/placement/geometry';
import type { Adjustment } from '#core/contract/adjustment';
import type { PresetRule } from '#core/contract/preset';
import type { DeliveryRow } from './db/deliveries.ts';
import type { MarkRow } from './db/markRows.ts';
import type { PhotoRow } from './db/photos.ts';
import type { Tables } from './db/tables.ts';
import { notFound, unusable } from './http/errors.ts';
import type { RenderPool } from './imaging/pool/renderPool.ts';
import type { Marks } from './marks.ts';
import { QUALITY_FOR_UNTOUCHED } from './runs/exportPhoto.ts';
import { proxyOf } from './runs/proxyOf.ts';
import { isWithin, type AllowedFolders } from './storage/allowedFolders.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** A file that was made to be looked at, and what it was made of. */
interface Tried {
  readonly path: string;
  readonly source: string;
  readonly type: FileType;
  readonly frame: Size;
}

/** Somebody looks at one, perhaps at another in a second window; older files go. */
const MOST_KEPT = 4;

export interface TriesParts {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  readonly imaging: RenderPool;
}

/** Deliveries tried on one photo: the very file that a run would write, in the folder of what comes and goes. */
export class Tries {
  private readonly kept = new Map<string, Tried>();

  constructor(private readonly parts: TriesParts) {}

  async make(deliveryId: number, photoId: number): Promise<TryView> {
    const { tables, marks, paths, allowed, imaging } = this.parts;
    const delivery = tables.deliveries.get(deliveryId);
    const photo = tables.photos.get(photoId);
    if (!delivery) throw notFound('That delivery');
    if (!photo) throw notFound('That photo');
    const isOwn = isWithin(paths.photos, photo.path);
    if (!isOwn && !(await allowed.resolve(photo.path)).ok) throw notFound(photo.name);
    const { rule: deliveryRule, name: deliveryName } = delivery;
    const placings = deliveryRule.mark ? this.placingsFor(photo, delivery) : [];
    const [placing = null] = placings;
    const path = paths.freshIncoming('try');
    const outputs = [
      {
        marks: placings.map(({ rule, adjustment }, mark) => ({ rule, adjustment, mark })),
        deliveryRule: placing ? deliveryRule : { ...deliveryRule, mark: false },
        temporaryPath: path,
      },
    ];
    const batchName = tables.batches.get(photo.batchId)?.name ?? '';
    const proxy = proxyOf(photo, paths);
    const job = {
      named: { name: photo.name, number: 1, batch: batchName },
      ...{ source: photo.path, proxy, outputs, otherQuality: QUALITY_FOR_UNTOUCHED },
      readsBack: true,
    };
    const files = placings.map(({ mark }) => marks.artworkFile(mark, mark.version));
    const frame = resizeFrame(photo, deliveryRule.resize);
    const pixels = Math.max(photo.width * photo.height, frame.width * frame.height);
    const [made] = await imaging.render(job, files, pixels);
    if (!made.ok) {
      await rm(path, { force: true });
      throw unusable(made.reason);
    }
    const key = await this.keep({
      ...{ path, source: photo.path, type: deliveryRule.file.type },
      frame: made.value.frame,
    });
    const base = outputName(deliveryRule.name_pattern, {
      name: basename(photo.name, extname(photo.name)),
      ...{ number: 1, date: photo.capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '' },
      batch: batchName,
      preset: placing?.name ?? '',
      delivery: deliveryName,
      ...made.value.frame,
    });
    const { frame: size, marks: drawn, note, readBack, bytesBefore, bytesAfter } = made.value;
    return {
      ...{ key, name: `${base}.${TYPE_FACTS[deliveryRule.file.type].ending}`, frame: size },
      ...{
        markBox: drawn[0]?.placement.copies[0]?.box ?? null,
        note,
        problem: readBack?.problem ?? null,
      },
      ...{ bytesBefore, bytesAfter },
    };
  }

  get(key: string): Tried {
    const tried = this.kept.get(key);
    if (!tried) throw notFound('That file');
    return tried;
  }

  private async keep(tried: Tried): Promise<string> {
    const key = randomUUID();
    this.kept.set(key, tried);
    for (const [old, { path }] of [...this.kept].slice(0, -MOST_KEPT)) {
      this.kept.delete(old);
      await rm(path, { force: true });
    }
    return key;
  }

  /** As a run would: the delivery's own preset, else, or where the wall shows it, what is on the bench of its batch. */
  private placingsFor(photo: PhotoRow, { id, presetId, overIds }: DeliveryRow): Placing[] {
    const { tables } = this.parts;
    const batch = tables.batches.get(photo.batchId);
    // A wall may show marks that were never saved as a preset.
    const isShown =
      batch?.deliveryIds[0] === id && (batch.presetId !== null || batch.placing !== null);
    const own = presetId === null || isShown ? null : tables.presets.get(presetId);
    const adjustment =
      tables.adjustments.ofBatch(photo.batchId).find((one) => one.photoId === photo.id)
        ?.adjustment ?? {};
    const usual = batch?.presetId ? tables.presets.get(batch.presetId) : null;
    const preset = own ?? usual ?? tables.presets.all()[0] ?? null;
    const bench = own ? null : (batch?.placing ?? null);
    const mark = tables.marks.get(bench?.markId ?? preset?.markId ?? 0);
    const rule = bench?.rule ?? preset?.rule;
    if (!mark || !rule) return [];
    const hand = { presetId: preset?.id ?? null, mark, rule, name: preset?.name ?? '' };
    if (own) {
      const over = overIds.flatMap((id) => this.otherMark({ presetId: id, placing: null }));
      return [hand, ...over].map((laid) => ({ ...laid, adjustment: {} }));
    }
    const beside = batch?.beside ?? NOTHING_BESIDE;
    const others = beside.marks.flatMap((other) => this.otherMark(other));
    return inOrder(hand, others, beside.at).map((laid, index) => ({
      ...laid,
      adjustment: adjustmentFor(adjustment, index === 0 ? null : laid.presetId),
    }));
  }

  /** A mark beside the one in hand; one whose preset or artwork is gone is none. */
  private otherMark({ presetId, placing }: Beside['marks'][number]) {
    const { presets, marks } = this.parts.tables;
    const preset = presets.get(presetId);
    const mark = preset && (marks.get(placing?.markId ?? 0) ?? marks.get(preset.markId));
    if (!preset || !mark) return [];
    return [{ presetId, mark, rule: placing?.rule ?? preset.rule, name: preset.name }];
  }
}

interface Placing {
  readonly mark: MarkRow;
  readonly rule: PresetRule;
  readonly name: string;
  readonly adjustment: Adjustment;
}
