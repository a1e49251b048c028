import type { PhotoWords } from '#core/lettering/words';
import { LRUCache } from 'lru-cache';
import type { RasterSpec } from '#core/compose/rasterPlan';
import type { ToneChoice } from '#core/contract/preset';
import { isOfOneInk } from '#core/design/edit';
import { inTone, toneColour } from '#core/mark/tone';
import type { Rescue } from '#core/readability/choice';
import { rescueCoverage } from '#core/readability/rescueShape';
import type { Rgb } from '#core/colour/hex';
import type { Coverage } from '#core/ink/plane';
import type { Raster } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import { messageOf } from '../imageErrors.ts';
import {
  wordsOn,
  type Artwork,
  type DesignArtwork,
  type PlainArtwork,
  type Showing,
} from './artwork.ts';
import type { RasterAnswer, RasterRequest } from './artwork.ts';

/** Bytes of rasters kept by each process: a hundred marks at web size, a few at print size. */
const CACHE_BYTES = 24_000_000;

type Answered = Extract<RasterAnswer, { ok: true }>;

const UNEXPECTED = 'The mark could not be drawn (an answer of another kind).';

/** Draws a mark: in this process, which then is one that can be killed, or in such a one. */
export type Drawer = (request: RasterRequest) => Promise<RasterAnswer>;

/**
 * Marks as pixels. Each is drawn once for a size, angle and version; tones are made from that one
 * raster. Answers are kept while there is room.
 */
export class Rasteriser {
  private readonly cache = new LRUCache<string, Raster>({
    maxSize: CACHE_BYTES,
    sizeCalculation: (raster) => raster.data.byteLength + 1,
  });
  /** Coverage of rasters, as long as those are kept. */
  private readonly coverages = new WeakMap<Raster, Coverage>();
  private readonly underway = new Map<string, Promise<Result<Raster>>>();

  constructor(private readonly drawer: Drawer) {}

  /** @param key names the artwork and its version; the same key must mean the same artwork */
  async raster(
    key: string,
    artwork: Artwork,
    spec: RasterSpec,
    tone: ToneChoice,
    words: PhotoWords,
  ): Promise<Result<Raster>> {
    const specKey = `${key}|${Object.values(spec).join(',')}`;
    if (artwork.kind === 'design' && tone !== 'original' && isOfOneInk(artwork.design)) {
      const bareKey = `${specKey}|${tone}|${wordsOn(artwork, words)}|toned`;
      return this.toned(bareKey, tone, () => this.bare(key, artwork, spec, words));
    }
    if (artwork.kind === 'design') {
      const showing = { tone, words };
      const drawKey = `${specKey}|${tone}|${wordsOn(artwork, words)}`;
      return this.original(drawKey, { do: 'draw', artwork, spec, showing });
    }
    return this.toned(`${specKey}|${tone}`, tone, () =>
      this.original(specKey, { ...{ do: 'draw', artwork, spec }, showing: null }),
    );
  }

  private async toned(
    tonedKey: string,
    tone: ToneChoice,
    drawn: () => Promise<Result<Raster>>,
  ): Promise<Result<Raster>> {
    const known = this.cache.get(tonedKey);
    if (known) return success(known);
    const original = await drawn();
    if (!original.ok) return original;
    const toned = inTone(original.value, tone);
    if (tone !== 'original') this.cache.set(tonedKey, toned);
    return success(toned);
  }

  /** A design without its finishes, in one tone. */
  private bare(
    key: string,
    artwork: DesignArtwork,
    spec: RasterSpec,
    words: PhotoWords,
  ): Promise<Result<Raster>> {
    const showing: Showing = { tone: 'dark', words, isBare: true };
    const bareKey = `${key}|${Object.values(spec).join(',')}|bare|${wordsOn(artwork, words)}`;
    return this.original(bareKey, { do: 'draw', artwork, spec, showing });
  }

  /** Coverage of the mark itself, without its finishes, on the same canvas as `raster`. */
  async core(
    key: string,
    artwork: Artwork,
    spec: RasterSpec,
    words: PhotoWords,
  ): Promise<Result<Coverage>> {
    const raster =
      artwork.kind === 'design'
        ? await this.bare(key, artwork, spec, words)
        : await this.raster(key, artwork, spec, 'original', words);
    if (!raster.ok) return raster;
    const known = this.coverages.get(raster.value);
    if (known) return success(known);
    const coverage = coverageOf(raster.value);
    this.coverages.set(raster.value, coverage);
    return success(coverage);
  }

  /** What lies under the mark to help it, at full strength, on the canvas of `spec`. */
  async rescue(
    key: string,
    artwork: Artwork,
    spec: RasterSpec,
    { kind, colour }: Pick<Rescue, 'kind' | 'colour'>,
    words: PhotoWords,
  ): Promise<Result<Raster>> {
    const rescueKey = `${key}|${Object.values(spec).join(',')}|${kind}|${colour}|${wordsOn(artwork, words)}`;
    const known = this.cache.get(rescueKey);
    if (known) return success(known);
    const core = await this.core(key, artwork, spec, words);
    if (!core.ok) return core;
    const coverage = rescueCoverage(kind, core.value, spec);
    const raster = tinted(coverage, toneColour(colour) ?? [0, 0, 0]);
    this.cache.set(rescueKey, raster);
    return success(raster);
  }

  /** Pixels of an uploaded picture that is to become artwork. */
  decode(bytes: Uint8Array): Promise<Result<Raster>> {
    return this.ask({ do: 'decode', bytes });
  }

  /** A picture without the box of one colour round it. */
  withoutBox(
    bytes: Uint8Array,
    colour: Rgb,
    from: 'outside' | 'everywhere',
  ): Promise<Result<Raster>> {
    return this.ask({ do: 'unbox', bytes, colour, from });
  }

  /** A drawing that is not worth keeping, such as one made to find the ink box. */
  draw(artwork: Artwork, spec: RasterSpec, showing: Showing | null = null) {
    return this.ask({ do: 'draw', artwork, spec, showing });
  }

  /** The silhouette of artwork as a path in its own units. */
  async trace(artwork: PlainArtwork): Promise<Result<string>> {
    const answer = await this.answer({ do: 'trace', artwork });
    if (!answer.ok) return answer;
    return 'path' in answer.value ? success(answer.value.path) : failure(UNEXPECTED);
  }

  /** Photos that are worked on at once often need the same raster: they share one drawing. */
  private original(key: string, request: RasterRequest): Promise<Result<Raster>> {
    const cacheKey = `${key}|original`;
    const known = this.cache.get(cacheKey);
    if (known) return Promise.resolve(success(known));
    const pending = this.underway.get(cacheKey);
    if (pending) return pending;
    const drawing = this.ask(request).then((result) => {
      this.underway.delete(cacheKey);
      if (result.ok) this.cache.set(cacheKey, result.value);
      return result;
    });
    this.underway.set(cacheKey, drawing);
    return drawing;
  }

  private async ask(request: RasterRequest): Promise<Result<Raster>> {
    const answer = await this.answer(request);
    if (!answer.ok) return answer;
    if (!('data' in answer.value)) return failure(UNEXPECTED);
    const { data, width, height } = answer.value;
    const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
    return success({ data: pixels, width, height, channels: 4 });
  }

  private async answer(request: RasterRequest): Promise<Result<Answered>> {
    try {
      const answer = await this.drawer(request);
      if (answer.ok) return success(answer);
      return failure(
        answer.isSentence ? answer.reason : `The mark could not be drawn (${answer.reason}).`,
      );
    } catch (error) {
      return failure(`The mark could not be drawn (${messageOf(error)}).`);
    }
  }
}

function coverageOf({ data, width, height }: Raster): Coverage {
  const coverage = new Uint8Array(width * height);
  for (let at = 0; at < coverage.length; at++) coverage[at] = data[at * 4 + 3];
  return { data: coverage, width, height };
}

function tinted({ data, width, height }: Coverage, [red, green, blue]: Rgb): Raster {
  const pixels = new Uint8ClampedArray(width * height * 4);
  data.forEach((coverage, at) => pixels.set([red, green, blue, coverage], at * 4));
  return { data: pixels, width, height, channels: 4 };
}
