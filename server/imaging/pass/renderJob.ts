import type { Adjustment } from '#core/contract/adjustment';
import type { DeliveryRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import type { Size } from '#core/placement/geometry';
import type { PhotoWords } from '#core/lettering/words';
import type { PreparedPart } from '#core/sheet/photoOnSheet';
import type { Placement } from '#core/placement/placeMark';
import type { Readability } from '#core/readability/measure';
import type { ReadBack } from '#core/verify/readBack';
import type { NamedInRun } from '../photo/fileWords.ts';
import type { Proxy } from '../workingPhoto.ts';

/** One photo and the outputs that are wanted of it. Plain data: whoever renders may be elsewhere. */
export interface RenderJob {
  /** The same work has the same, whenever it is asked for. Work without one stays on this machine. */
  readonly key?: string;
  readonly source: string;
  /** What marks may say of it that its file does not know. */
  readonly named: NamedInRun;
  /** The photo at working size, where that was kept: what the page judges by is then what is judged by here. */
  readonly proxy?: Proxy | undefined;
  /** Measure readability also where nothing is chosen by it. */
  readonly measures?: boolean;
  /** Quality in place of `untouched`, where a photo cannot be that; without one it fails then. */
  readonly otherQuality?: number;
  /** Open each output again and compare it with what was to be written. */
  readonly readsBack?: boolean;
  readonly outputs: readonly OutputJob[];
}

/** A mark as it is wanted on a photo. */
export interface WantedMark {
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
  /** Place of its artwork among those that come with the job. */
  readonly mark: number;
}

/** A photo with its marks, as a delivery wants it, in a temporary file of its folder. */
export interface OutputJob {
  /** The lowest first. */
  readonly marks: readonly WantedMark[];
  readonly deliveryRule: DeliveryRule;
  /** Where the finished bytes go; not the final name. */
  readonly temporaryPath: string;
  /** For a sheet: the part that is printed goes out, with marks chosen but not drawn yet. */
  readonly prepared?: PreparedPart;
}

/** A mark as it was drawn. */
export interface DrawnMark {
  readonly placement: Placement;
  /** Null where it was not measured, or nothing of the mark lies on the photo. */
  readonly readability: Readability | null;
}

export interface RenderedOutput {
  readonly frame: Size;
  /** The lowest first; none: it has no mark. */
  readonly marks: readonly DrawnMark[];
  /** Where its marks are still to be drawn: what they say of it. */
  readonly words?: PhotoWords | undefined;
  /** The year written for want of a capture date, that of the file; else null. */
  readonly yearFromFile: number | null;
  /** What should be known of the file, as a sentence, such as what it had no room for; or null. */
  readonly note: string | null;
  /** What was found when it was opened again; null: it was not. */
  readonly readBack: ReadBack | null;
  readonly bytesBefore: number;
  readonly bytesAfter: number;
  /** Of a photo's first output with what all need: reading and decoding it. */
  readonly durationMs: number;
  /** The worker that made it, where that was not the server's own machine. */
  readonly madeBy?: string;
}
