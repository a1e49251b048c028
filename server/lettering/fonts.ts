import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { faceKey, SHIPPED_FONTS } from '#core/lettering/shippedFonts';
import type { FontView } from '#core/contract/http';
import { failure, success, type Result } from '#core/result';
import type { FontRow } from '../db/fonts.ts';
import type { Tables } from '../db/tables.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

/** Fonts of larger files are for scripts of many thousand signs, and take long to open. */
export const MAX_FONT_BYTES = 30_000_000;

/** The fonts that lettering can be set in: those that ship, and those the photographer added. */
export class Fonts {
  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly imaging: Imaging,
  ) {}

  list(): FontView[] {
    const own = new Map<string, FontView>();
    for (const { family, name, weight, italic } of this.tables.fonts.all()) {
      const known = own.get(family) ?? { id: family, name, kind: 'own', words: '', faces: [] };
      own.set(family, { ...known, faces: [...known.faces, { weight, italic }] });
    }
    return [...own.values(), ...SHIPPED_FONTS];
  }

  /** A TrueType, OpenType or WOFF2 file, checked and kept. @returns the family it belongs to */
  async add(bytes: Uint8Array, fileName: string): Promise<Result<FontView>> {
    if (bytes.byteLength > MAX_FONT_BYTES) {
      return failure(`Expected a font of at most ${MAX_FONT_BYTES / 1e6} MB.`);
    }
    const read = await this.imaging.readFont(bytes);
    if (!read.ok) return read;
    const { bytes: plain, weight, italic } = read.value;
    const name = read.value.family || fileName.replace(/\.[^.]*$/, '');
    const row = this.rowFor(name, weight, italic);
    const path = join(this.paths.fonts, `${faceKey(row.family, row)}.ttf`);
    const beside = this.paths.freshIncoming('font');
    await mkdir(dirname(path), { recursive: true });
    await writeFile(beside, plain, { flush: true });
    await rename(beside, path);
    this.tables.fonts.insert(row);
    const added = this.list().find(({ id }) => id === row.family);
    return added ? success(added) : failure('The font was not kept.');
  }

  /** Marks that use it keep their outlines; their words can be changed once it is back. */
  async remove(family: string): Promise<void> {
    if (!this.tables.fonts.all().some((row) => row.family === family)) return;
    this.tables.fonts.removeFamily(family);
    await rm(join(this.paths.fonts, family), { recursive: true, force: true });
  }

  private rowFor(name: string, weight: number, italic: boolean): FontRow {
    const id = this.tables.fonts.nextId();
    const known = this.tables.fonts.all().find((row) => row.name === name);
    return { id, name, weight, italic, family: known?.family ?? `own-${id}` };
  }
}
