import type { Bundle } from '#core/contract/bundle';
import type { Design } from '#core/contract/design';
import type {
  BundleDecision,
  BundleKind,
  EarlierDelivery,
  EarlierPreset,
  TakenBundleView,
} from '#core/contract/http';
import { markModelOf } from '#core/mark/markFile';
import { freeName } from '#core/placement/suggestName';
import type { Result } from '#core/result';
import type { DeliveryRow } from '../db/deliveries.ts';
import type { PresetRow } from '../db/presets.ts';
import type { Designs } from '../designs.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';
import type { Fonts } from '../lettering/fonts.ts';
import type { Marks } from '../marks.ts';
import type { PackParts } from './packBundle.ts';
import { textOf, type ReadBundle } from './readBundle.ts';

export interface BundleParts extends PackParts {
  readonly marks: Marks;
  readonly fonts: Fonts;
  readonly designs: Designs;
  readonly imaging: Imaging;
}

/** What a thing in a bundle is beside the library. */
export interface Beside {
  readonly state: 'new' | 'same' | 'taken';
  /** The thing of that name that is there. */
  readonly id: number | null;
}

type BundlePreset = Bundle['presets'][number];
type BundleDelivery = Bundle['deliveries'][number];

/**
 * A design that came in has no fonts of its own any more, since their numbers mean others here.
 *
 * @param before as it was in the bundle
 * @param families as they are called here
 */
function inFontsHere(
  design: Design,
  before: Design,
  families: ReadonlyMap<string, string>,
): Design {
  const layers = design.layers.map((layer) => {
    const said = before.layers.find(({ id }) => id === layer.id);
    if (layer.kind !== 'lettering' || said?.kind !== 'lettering') return layer;
    const family = families.get(said.lettering.font.family);
    if (family === undefined) return layer;
    const font = { ...layer.lettering.font, family };
    return { ...layer, lettering: { ...layer.lettering, font } };
  });
  return { ...design, layers };
}

/** One bundle being taken in. */
export class Taking {
  private readonly problems: string[] = [];
  private readonly counts = { added: 0, replaced: 0, left: 0 };
  /** What things of the bundle are in the library now. */
  private readonly ids: Record<BundleKind, Map<string, number>> = {
    marks: new Map(),
    presets: new Map(),
    deliveries: new Map(),
  };

  constructor(
    private readonly read: ReadBundle,
    private readonly beside: Record<BundleKind, ReadonlyMap<string, Beside>>,
    private readonly parts: BundleParts,
  ) {}

  /** In this order: fonts, marks, presets, deliveries, since each may name what comes before. */
  async take(
    decisionOn: (kind: BundleKind, key: string) => BundleDecision,
  ): Promise<TakenBundleView> {
    const { bundle } = this.read;
    const families = await this.takeFonts(
      bundle.marks.some(({ key }) => decisionOn('marks', key) !== 'leave'),
    );
    for (const mark of bundle.marks) {
      const decision = decisionOn('marks', mark.key);
      await this.one('marks', mark, decision, (id) => this.takeMark(mark, id, families));
    }
    for (const preset of bundle.presets) {
      const decision = decisionOn('presets', preset.key);
      await this.one('presets', preset, decision, (id) => this.takePreset(preset, id));
    }
    for (const delivery of bundle.deliveries) {
      const decision = decisionOn('deliveries', delivery.key);
      await this.one('deliveries', delivery, decision, (id) => this.takeDelivery(delivery, id));
    }
    return { ...this.counts, problems: this.problems };
  }

  /** @param put does it; it is told the thing that is replaced, or null */
  private async one(
    kind: BundleKind,
    { key, name }: { readonly key: string; readonly name: string },
    decision: BundleDecision,
    put: (id: number | null) => Promise<number | string> | number | string,
  ): Promise<void> {
    const { id: there = null } = this.beside[kind].get(key) ?? {};
    if (decision === 'leave') {
      this.counts.left++;
      // What names it has the one of that name that is there.
      if (there !== null) this.ids[kind].set(key, there);
      return;
    }
    const replaced = decision === 'replace' ? there : null;
    const done = await put(replaced);
    if (typeof done === 'string') {
      this.problems.push(`${name}: ${done}`);
      return;
    }
    this.ids[kind].set(key, done);
    if (replaced === null) this.counts.added++;
    else this.counts.replaced++;
  }

  private nameFor(kind: BundleKind, name: string, replaced: number | null): string {
    if (replaced !== null) return name;
    const taken = this.parts.tables[kind].all().map((one) => one.name);
    return taken.includes(name) ? freeName(name, taken) : name;
  }

  /** @returns families of the bundle as they are called here */
  private async takeFonts(isNeeded: boolean): Promise<Map<string, string>> {
    const { tables, fonts } = this.parts;
    const families = new Map<string, string>();
    for (const { family, name, weight, italic, file } of isNeeded ? this.read.bundle.fonts : []) {
      const known = tables.fonts
        .all()
        .find((row) => row.name === name && row.weight === weight && row.italic === italic);
      const bytes = this.read.files.get(file);
      const added = known || !bytes ? null : await fonts.add(bytes, `${name}.ttf`);
      if (added && !added.ok) this.problems.push(`${name}: ${added.reason}`);
      const here = known?.family ?? (added?.ok ? added.value.id : null);
      if (here !== null) families.set(family, here);
    }
    return families;
  }

  private async takeMark(
    { name, file }: Bundle['marks'][number],
    replaced: number | null,
    families: ReadonlyMap<string, string>,
  ): Promise<number | string> {
    const { tables } = this.parts;
    const wanted = this.nameFor('marks', name, replaced);
    const added = await this.addMark(textOf(this.read.files, file), name, replaced, families);
    if (!added.ok) return added.reason;
    if (replaced === null) tables.marks.rename(added.value, wanted);
    return added.value;
  }

  private async addMark(
    svg: string,
    name: string,
    replaced: number | null,
    families: ReadonlyMap<string, string>,
  ): Promise<Result<number>> {
    const { marks, imaging, designs } = this.parts;
    const bytes = Buffer.from(svg);
    if (families.size === 0) return marks.add(bytes, `${name}.svg`, replaced);
    const imported = await imaging.importArtwork(bytes);
    if (!imported.ok) return imported;
    const { artwork } = imported.value;
    const model = markModelOf(svg);
    if (artwork.kind !== 'design' || !model.ok || model.value?.origin.kind !== 'design') {
      return marks.add(bytes, `${name}.svg`, replaced);
    }
    const design = inFontsHere(artwork.design, model.value.origin.design, families);
    return designs.keepArtwork({ ...artwork, design }, name, replaced);
  }

  private takePreset(preset: BundlePreset, replaced: number | null): number | string {
    const { tables } = this.parts;
    const markId = this.ids.marks.get(preset.mark);
    if (markId === undefined) return 'its mark was not taken.';
    const name = this.nameFor('presets', preset.name, replaced);
    const row = replaced === null ? null : tables.presets.get(replaced);
    if (!row) return tables.presets.insert(name, markId, preset.rule);
    return tables.together(() => {
      this.keepPreset(row);
      tables.presets.update(row.id, name, markId, preset.rule);
      return row.id;
    });
  }

  private takeDelivery(delivery: BundleDelivery, replaced: number | null): number | string {
    const { tables } = this.parts;
    const ids = delivery.presets.map((key) => this.ids.presets.get(key));
    if (ids.includes(undefined)) return 'one of its presets was not taken.';
    const [presetId = null, ...overIds] = ids as number[];
    const name = this.nameFor('deliveries', delivery.name, replaced);
    const said = { name, presetId, overIds, rule: delivery.rule };
    const row = replaced === null ? null : tables.deliveries.get(replaced);
    if (!row) {
      const place = { folder: null, subfolder: 'none', zip: false, favourite: true } as const;
      return tables.deliveries.insert({ ...said, ...place });
    }
    return tables.together(() => {
      this.keepDelivery(row);
      const { folder, subfolder, zip, favourite } = row;
      tables.deliveries.update(row.id, { ...said, folder, subfolder, zip, favourite });
      return row.id;
    });
  }

  /** What it said before can be taken back. */
  private keepPreset({ id, name, markId, rule, version, updatedAt: madeAt }: PresetRow): void {
    const value: EarlierPreset = { name, markId, rule };
    const { earlier } = this.parts.tables;
    earlier.keep('preset', id, { version, madeAt, value: JSON.stringify(value) });
  }

  private keepDelivery({ id, version, updatedAt: madeAt, ...row }: DeliveryRow): void {
    const { name, presetId, overIds, rule, folder } = row;
    const value: EarlierDelivery = { name, presetId, overIds, rule, folder };
    const { earlier } = this.parts.tables;
    earlier.keep('delivery', id, { version, madeAt, value: JSON.stringify(value) });
  }
}
