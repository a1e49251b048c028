import { randomUUID } from 'node:crypto';
import type {
  BundleEntryView,
  BundleKind,
  BundleView,
  TakeBundleWish,
  TakenBundleView,
} from '#core/contract/http';
import { success, type Result } from '#core/result';
import { isSameValue } from '#core/sameValue';
import { notFound } from '../http/errors.ts';
import { markFile } from './packBundle.ts';
import { readBundle, textOf, type ReadBundle } from './readBundle.ts';
import { Taking, type Beside, type BundleParts } from './taking.ts';

/** Bundles that were looked at and may still be taken in; older ones go. */
const MOST_KEPT = 3;

/** Bundles from elsewhere: looked at beside the library, then taken in as it was decided. */
export class Bundles {
  private readonly kept = new Map<string, ReadBundle>();
  private readonly taken = new Map<string, Promise<TakenBundleView>>();

  constructor(private readonly parts: BundleParts) {}

  async look(path: string): Promise<Result<BundleView>> {
    const read = await readBundle(path);
    if (!read.ok) return read;
    const key = randomUUID();
    this.kept.set(key, read.value);
    for (const old of [...this.kept.keys()].slice(0, -MOST_KEPT)) this.kept.delete(old);
    const { bundle } = read.value;
    const beside = await this.beside(read.value);
    const entries = KINDS.flatMap((kind) =>
      bundle[kind].map(({ key: own, name }): BundleEntryView => {
        return { kind, key: own, name, state: beside[kind].get(own)?.state ?? 'new' };
      }),
    );
    return success({ key, madeAt: bundle.made_at, entries });
  }

  /** Asked twice, as where the answer was lost, it is taken in once. */
  take(key: string, wish: TakeBundleWish): Promise<TakenBundleView> {
    const known = this.taken.get(key);
    if (known) return known;
    const read = this.kept.get(key);
    if (!read) throw notFound('That bundle');
    this.kept.delete(key);
    const taking = this.takeIn(read, wish);
    this.taken.set(key, taking);
    for (const old of [...this.taken.keys()].slice(0, -MOST_KEPT)) this.taken.delete(old);
    return taking;
  }

  private async takeIn(read: ReadBundle, { decisions }: TakeBundleWish): Promise<TakenBundleView> {
    const decided = new Map(decisions.map((one) => [`${one.kind} ${one.key}`, one.decision]));
    return new Taking(read, await this.beside(read), this.parts).take(
      (kind, own) => decided.get(`${kind} ${own}`) ?? 'leave',
    );
  }

  private async beside({
    bundle,
    files,
  }: ReadBundle): Promise<Record<BundleKind, Map<string, Beside>>> {
    const { tables } = this.parts;
    const marks = new Map<string, Beside>();
    for (const { key, name, file } of bundle.marks) {
      const there = tables.marks.all().find((mark) => mark.name === name && !mark.isPending);
      const own = there ? await markFile(there, this.parts) : null;
      const isSame = own?.ok && familiesAside(own.value) === familiesAside(textOf(files, file));
      marks.set(key, besideOf(there, isSame ?? false));
    }
    const presets = new Map<string, Beside>();
    for (const preset of bundle.presets) {
      const there = tables.presets.all().find(({ name }) => name === preset.name);
      const isSame =
        there !== undefined &&
        isSameValue(there.rule, preset.rule) &&
        marks.get(preset.mark)?.state === 'same' &&
        marks.get(preset.mark)?.id === there.markId;
      presets.set(preset.key, besideOf(there, isSame));
    }
    const deliveries = new Map<string, Beside>();
    for (const delivery of bundle.deliveries) {
      const there = tables.deliveries.all().find(({ name }) => name === delivery.name);
      const own = delivery.presets.map((key) => presets.get(key)?.id ?? null);
      const ids =
        there === undefined || there.presetId === null ? [] : [there.presetId, ...there.overIds];
      const isSame =
        there !== undefined &&
        isSameValue(there.rule, delivery.rule) &&
        isSameValue(ids, own) &&
        delivery.presets.every((key) => presets.get(key)?.state === 'same');
      deliveries.set(delivery.key, besideOf(there, isSame));
    }
    return { marks, presets, deliveries };
  }
}

const KINDS = ['marks', 'presets', 'deliveries'] as const satisfies readonly BundleKind[];

function besideOf(there: { readonly id: number } | undefined, isSame: boolean): Beside {
  if (!there) return { state: 'new', id: null };
  return { state: isSame ? 'same' : 'taken', id: there.id };
}

/** A family that somebody added goes by another number in each library. */
function familiesAside(svg: string): string {
  return svg.replace(/"family":"own-\d+"/g, '"family":"own"');
}
