import type { Adjustment } from '../contract/adjustment.ts';
import type { PresetRule } from '../contract/preset.ts';
import { cleanCrop } from '../placement/cleanCrop.ts';
import type { Size } from '../placement/geometry.ts';
import { placeMark, type Copy } from '../placement/placeMark.ts';
import type { Choice } from './choice.ts';
import { PointWindows } from './pointWindows.ts';

/** Where a mark lies on photos of a frame. */
export interface Place {
  readonly copies: readonly Copy[];
  readonly windows: PointWindows;
  /** Share of the frame that can be cropped free of the mark; null: it was not asked for yet. */
  cropShare: number | null;
}

interface KnownPlace extends Place {
  copies: readonly Copy[];
  rule: PresetRule | null;
  width: number;
  height: number;
  aspect: number;
  anchor: Choice['anchor'] | null;
}

/** For some marks with fallbacks on the frames that cameras make. More are looked through with every photo. */
const MOST_KNOWN = 48;

/**
 * Placements of a batch: its photos have few frames, and where nothing was set by hand a mark lies alike on all of
 * one. What is known longest gives way to what is new, its arrays with it.
 */
export class KnownPlaces {
  private readonly known = Array.from({ length: MOST_KNOWN }, () => unknownPlace());
  private next = 0;
  /** Of a photo that has something of its own. */
  private readonly own = unknownPlace();

  /** @returns null where the rule lays no mark on that frame */
  at(
    frame: Size,
    aspect: number,
    rule: PresetRule,
    adjustment: Adjustment,
    choice: Choice,
  ): Place | null {
    if (Object.keys(adjustment).length > 0) {
      return placed(this.own, frame, aspect, rule, adjustment, choice);
    }
    for (const place of this.known) {
      if (
        place.rule === rule &&
        place.width === frame.width &&
        place.height === frame.height &&
        place.anchor === choice.anchor &&
        place.aspect === aspect
      ) {
        return place;
      }
    }
    const place = this.known[this.next];
    if (!placed(place, frame, aspect, rule, adjustment, choice)) return null;
    this.next = (this.next + 1) % MOST_KNOWN;
    place.rule = rule;
    place.width = frame.width;
    place.height = frame.height;
    place.aspect = aspect;
    place.anchor = choice.anchor;
    return place;
  }

  cropShare(place: Place, frame: Size): number {
    place.cropShare ??= cleanCrop(
      frame,
      place.copies.map((copy) => copy.box),
    ).share;
    return place.cropShare;
  }
}

function placed(place: KnownPlace, ...where: Parameters<typeof placeMark>): Place | null {
  const made = placeMark(...where);
  place.rule = null;
  if (!made.ok) return null;
  place.copies = made.value.copies;
  place.cropShare = null;
  return place;
}

const unknownPlace = (): KnownPlace => ({
  ...{ copies: [], windows: new PointWindows(), cropShare: null },
  ...{ rule: null, width: 0, height: 0, aspect: 0, anchor: null },
});
