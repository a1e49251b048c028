import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync, utimesSync } from 'node:fs';
import { rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { partSchema, type Design, type Part, type Parts } from '#core/contract/design';
import { ownPath } from '#core/mark/tonedSvg';
import { scopedSvg } from '#core/mark/svg/scoped';
import { readPath } from '#core/path/path';
import { failure, success, type Result } from '#core/result';
import { scopeOf } from './imaging/raster/artworkScope.ts';
import type { PlainArtwork } from './imaging/raster/artwork.ts';
import type { Rasteriser } from './imaging/raster/rasteriser.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** A name is made of this many hexadecimal digits of what it names. */
const KEY_DIGITS = 32;
/** Unused artwork is kept as long as somebody may still undo its removal. */
const KEPT_UNUSED_MS = 3 * 24 * 3_600_000;
const PART_ENDING = '.json';

/** Artwork of layers, kept under names made of its content, so that a save sends none of it. */
export class PartStore {
  constructor(private readonly paths: DataPaths) {}

  /** A layer's artwork out of plain artwork: drawn as it is, its silhouette as a path. */
  async fromArtwork(
    artwork: PlainArtwork,
    rasteriser: Rasteriser,
  ): Promise<Result<{ readonly key: string; readonly part: Part }>> {
    const { natural, ink } = artwork;
    const own = artwork.kind === 'svg' ? ownPath(artwork.svg) : null;
    if (own !== null && readPath(own).ok) {
      return success(await this.add({ kind: 'outline', natural, ink, contour: own }));
    }
    const contour = await rasteriser.trace(artwork);
    if (!contour.ok) return contour;
    if (contour.value === '') {
      return failure('Expected artwork with ink that can be outlined, found only faint traces.');
    }
    const base = { natural, ink, contour: contour.value };
    if (artwork.kind === 'png') {
      const png = Buffer.from(artwork.png).toString('base64');
      return success(await this.add({ kind: 'png', ...base, png }));
    }
    const svg = scopedSvg(artwork.svg, scopeOf(artwork.svg));
    return success(await this.add({ kind: 'svg', ...base, svg }));
  }

  async add(part: Part): Promise<{ readonly key: string; readonly part: Part }> {
    const text = JSON.stringify(part);
    const key = keyOf(text);
    if (this.get(key)) return { key, part };
    const beside = this.paths.freshIncoming('part');
    await writeFile(beside, text, { flush: true });
    await rename(beside, this.paths.part(key));
    return { key, part };
  }

  /** A design from elsewhere, with its artwork under the names it has here. */
  async adopt(design: Design, parts: Parts): Promise<{ design: Design; parts: Parts }> {
    const names = new Map<string, string>();
    const adopted: Record<string, Part> = {};
    for (const [name, part] of Object.entries(parts)) {
      const { key } = await this.add(part);
      names.set(name, key);
      adopted[key] = part;
    }
    const layers = design.layers.map((layer) =>
      layer.kind === 'artwork' ? { ...layer, part: names.get(layer.part) ?? layer.part } : layer,
    );
    return { design: { ...design, layers }, parts: adopted };
  }

  get(key: string): Part | null {
    if (!/^[0-9a-f]+$/.test(key)) return null;
    try {
      const path = this.paths.part(key);
      const part = partSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
      const now = new Date();
      utimesSync(path, now, now);
      return part;
    } catch {
      return null;
    }
  }

  /** All artwork a design's layers name. */
  ofDesign({ layers }: Design): Result<Parts> {
    const parts: Record<string, Part> = {};
    for (const layer of layers) {
      if (layer.kind !== 'artwork' || parts[layer.part]) continue;
      const part = this.get(layer.part);
      if (!part) {
        return failure(`The artwork of the layer "${layer.name}" is not there any more.`);
      }
      parts[layer.part] = part;
    }
    return success(parts);
  }

  /** Removes what no design uses any more. @param used names that are used */
  async tidy(used: ReadonlySet<string>): Promise<void> {
    const oldest = Date.now() - KEPT_UNUSED_MS;
    for (const name of readdirSync(this.paths.parts)) {
      const path = join(this.paths.parts, name);
      if (used.has(name.replace(PART_ENDING, ''))) continue;
      if (statSync(path).mtimeMs < oldest) await rm(path, { force: true });
    }
  }
}

function keyOf(text: string): string {
  return createHash('sha256').update(text).digest('hex').slice(0, KEY_DIGITS);
}
