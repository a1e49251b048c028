import type { Adjustment } from '#core/contract/adjustment';
import type { ResizeRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import type { InkView } from '#core/contract/readability';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Size } from '#core/placement/geometry';
import { BatchEstimator, ESTIMATE, ESTIMATE_NUMBERS } from '#core/readability/batchEstimate';
import { ANCHORS } from '#core/contract/preset';
import { placeMark } from '#core/placement/placeMark';
import { ruleFor } from '#core/placement/uprightRule';
import { calmness, PLACES } from '#core/readability/calmness';
import type { InkPoints } from '#core/readability/inkPoints';
import { unpackedLightMaps, type LightMap } from '#core/readability/lightMap';
import type { Rgb } from '#core/colour/hex';

/** A photo as far as estimates go. */
export interface DeskPhoto extends Size {
  readonly id: number;
  /** Counted up when it was read again: its light is then another. */
  readonly version: number;
}

/** A mark with its shape on the photos there are. */
export interface DeskMark {
  readonly id: number;
  readonly version: number;
  /** Width by height of its ink box, where it holds no words of the photo. */
  readonly aspect: number;
  /** Where it does, for each photo in their order. */
  readonly aspects: readonly number[] | null;
  /** The words of one of them, which stand for all where its ink is looked at. */
  readonly words: readonly string[] | null;
}

/** How one photo is marked; only those that differ from the batch are named. */
export interface DeskOwn {
  readonly photoId: number;
  readonly markId: number;
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
}

export interface DeskQuestion {
  readonly resize: ResizeRule | null;
  readonly marks: readonly DeskMark[];
  readonly markId: number;
  readonly rule: PresetRule;
  readonly own: readonly DeskOwn[];
}

/** How the desk gets what it needs of the server. */
export interface DeskSource {
  readonly lightMaps: (ids: readonly number[]) => Promise<Uint8Array>;
  readonly ink: (mark: DeskMark) => Promise<InkView>;
}

interface Ink {
  readonly points: InkPoints;
  readonly colour: Rgb;
}

/** Light maps are asked for in portions of this many photos: some megabytes each. */
const MAPS_AT_ONCE = 250;

/**
 * Light maps of a batch on the desk of a worker, which answers for all photos at once with one flat
 * array. What is not there yet is NaN.
 */
export class EstimateDesk {
  private photos: readonly DeskPhoto[] = [];
  private readonly maps = new Map<number, LightMap>();
  private readonly inks = new Map<string, Ink>();
  private readonly estimator = new BatchEstimator();

  constructor(private readonly source: DeskSource) {}

  /** The photos from here on, in the order of the answers. Maps of those that left are dropped. */
  async take(photos: readonly DeskPhoto[]): Promise<void> {
    const before = new Map(this.photos.map(({ id, version }) => [id, version]));
    this.photos = photos;
    const same = new Set(
      photos.filter(({ id, version }) => before.get(id) === version).map(({ id }) => id),
    );
    for (const id of this.maps.keys()) if (!same.has(id)) this.maps.delete(id);
    const missing = photos.map(({ id }) => id).filter((id) => !this.maps.has(id));
    for (let at = 0; at < missing.length; at += MAPS_AT_ONCE) {
      const packed = await this.source.lightMaps(missing.slice(at, at + MAPS_AT_ONCE));
      for (const [id, map] of unpackedLightMaps(packed)) this.maps.set(id, map);
    }
  }

  async answer(question: DeskQuestion): Promise<Float32Array> {
    await this.learnInks(question);
    const numbers = new Float32Array(this.photos.length * ESTIMATE_NUMBERS);
    const own = new Map(question.own.map((some) => [some.photoId, some]));
    const marks = new Map(question.marks.map((mark) => [mark.id, mark]));
    const shared = { markId: question.markId, rule: question.rule, adjustment: NOTHING_ADJUSTED };
    this.photos.forEach((photo, index) => {
      const at = index * ESTIMATE_NUMBERS;
      const { markId, rule, adjustment } = own.get(photo.id) ?? shared;
      const mark = marks.get(markId);
      const map = this.maps.get(photo.id);
      const ink = mark && this.inks.get(inkKey(mark));
      if (!mark || !map || !ink) {
        numbers[at + ESTIMATE.share] = NaN;
        return;
      }
      const frame = resizeFrame(photo, question.resize);
      const aspect = mark.aspects?.[index] ?? mark.aspect;
      const { points, colour: inkColour } = ink;
      const subject = { map, frame, aspect, points, inkColour, rule, adjustment };
      this.estimator.estimate(subject, numbers, at);
    });
    return numbers;
  }

  /** How calm each place is under the mark, `PLACES` numbers a photo; NaN where nothing is known. */
  calm(question: DeskQuestion): Float32Array {
    const numbers = new Float32Array(this.photos.length * PLACES).fill(NaN);
    const marks = new Map(question.marks.map((mark) => [mark.id, mark]));
    const mark = marks.get(question.markId);
    this.photos.forEach((photo, index) => {
      const map = this.maps.get(photo.id);
      if (!map || !mark) return;
      const frame = resizeFrame(photo, question.resize);
      const aspect = mark.aspects?.[index] ?? mark.aspect;
      const rule = { ...question.rule, repeat: null, upright: null };
      const shaped = ruleFor(question.rule, frame);
      ANCHORS.forEach((anchor, place) => {
        const placed = placeMark(frame, aspect, { ...rule, ...sizeOf(shaped), anchor });
        if (!placed.ok) return;
        numbers[index * PLACES + place] = calmness(map, frame, placed.value.copies[0].box);
      });
    });
    return numbers;
  }

  private async learnInks({ marks }: DeskQuestion): Promise<void> {
    for (const mark of marks) {
      const key = inkKey(mark);
      if (this.inks.has(key)) continue;
      const { values, colour } = await this.source.ink(mark);
      this.inks.set(key, { points: { values: Float32Array.from(values) }, colour });
    }
  }
}

/** What of a rule says how large the mark is, and how far from the edges. */
function sizeOf({ size, inset, rotation }: PresetRule): Partial<PresetRule> {
  return { size, inset, rotation, offset: NO_OFFSET };
}

const NO_OFFSET = Object.freeze({ x: 0, y: 0 });
const NOTHING_ADJUSTED = Object.freeze({});

function inkKey({ id, version, words }: DeskMark): string {
  return `${id}|${version}|${words?.join('|') ?? ''}`;
}
