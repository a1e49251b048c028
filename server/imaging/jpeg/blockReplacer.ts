import type koffiPackage from 'koffi';
import type { LibraryHandle } from 'koffi';
import type { Box } from '#core/placement/geometry';

/** How blocks of a component lie in those of all: T.81's sampling factors. */
export interface Sampling {
  readonly across: number;
  readonly down: number;
}

export interface BlockWish {
  /** Of the components, in order. */
  readonly samplings: readonly Sampling[];
  readonly isProgressive: boolean;
  /** Whole blocks, but for what the edges cut off; px. */
  readonly cuts: readonly Box[];
  /**
   * A cut as it is to be: a JPEG of the same tables and sampling. It is asked for while the library is at
   * work, so it cannot be waited for.
   */
  readonly remade: (cut: Uint8Array, index: number) => Uint8Array;
}

/** Coefficients of a component: 64 for each block, row by row. */
interface Plane {
  readonly across: number;
  readonly rows: Int16Array[];
}

const BLOCK_PX = 8;
const COEFFICIENTS = BLOCK_PX * BLOCK_PX;

/** `struct tjtransform` on machines of 64 bits: region, operation, options, data, filter. */
const TRANSFORM_BYTES = 40;
const OPTIONS_AT = 20;
const FILTER_AT = 32;
/** TJXOPT. */
const CROP = 4;
const NO_OUTPUT = 16;
const PROGRESSIVE = 32;
const COPY_NONE = 64;

/** How a transform is asked for. */
interface Transform {
  readonly cut?: Box;
  readonly options: number;
  readonly isSeen?: boolean;
}

/** Of a row of blocks: its coefficients, which may be written to; its size in samples, not blocks. */
type Row = (
  coefficients: unknown,
  row: { readonly y: number; readonly w: number },
  plane: unknown,
  component: number,
) => void;

/**
 * Puts other blocks into a JPEG. Its coefficients are read once: the cuts are written first, and by the time
 * that the whole is written, they have been made anew.
 *
 * @returns what the library makes of it with the blocks in their places, or null where it remarks on
 *   anything
 * @throws what `remade` throws
 */
export type BlockReplacer = (jpeg: Uint8Array, wish: BlockWish) => Uint8Array | null;

/** @param flags for each call */
export function blockReplacer(
  koffi: typeof koffiPackage,
  library: LibraryHandle,
  flags: number,
): BlockReplacer {
  koffi.struct('JpegRegion', { x: 'int', y: 'int', w: 'int', h: 'int' });
  koffi.proto(
    'int JpegFilter(void *coefficients, JpegRegion row, JpegRegion plane, int component, ' +
      'int index, void *transform)',
  );
  const begin = library.func('void *tjInitTransform()');
  const end = library.func('int tjDestroy(void *handle)');
  const free = library.func('void tjFree(void *bytes)');
  const transform = library.func(
    'int tjTransform(void *handle, const uint8_t *jpeg, unsigned long bytes, int count, ' +
      'void *outputs, void *sizes, void *transforms, int flags)',
  );

  /** @param use of the outputs, before they are freed */
  function transformed<T>(
    jpeg: Uint8Array,
    wishes: readonly Transform[],
    onRow: (output: (index: number) => Uint8Array) => Row,
    use: (output: (index: number) => Uint8Array) => T,
  ): T | null {
    const outputs = new BigUint64Array(wishes.length);
    const sizes = new BigUint64Array(wishes.length);
    const output = (index: number): Uint8Array =>
      new Uint8Array(koffi.view(outputs[index], Number(sizes[index])));
    let thrown: unknown = null;
    const row = onRow(output);
    const filter = koffi.register((...words: Parameters<Row>) => {
      // An error must not go through the library, which knows nothing of it.
      try {
        row(...words);
        return 0;
      } catch (error) {
        thrown = error;
        return -1;
      }
    }, 'JpegFilter *');
    const handle = begin();
    try {
      const asked = transformBytes(wishes, koffi.address(filter));
      const words = [jpeg, jpeg.length, wishes.length, outputs, sizes, asked, flags];
      const failed = transform(handle, ...words);
      if (thrown) throw thrown as Error;
      return failed === 0 ? use(output) : null;
    } finally {
      for (const bytes of outputs) if (bytes) free(bytes);
      end(handle);
      koffi.unregister(filter);
    }
  }

  function samplesOf(coefficients: unknown, count: number): Int16Array {
    return new Int16Array(koffi.view(coefficients, count * Int16Array.BYTES_PER_ELEMENT));
  }

  function planesOf(jpeg: Uint8Array): Plane[] {
    const planes: Plane[] = [];
    const keep: Row = (coefficients, { w }, _, component) => {
      const plane = (planes[component] ??= { across: w / BLOCK_PX, rows: [] });
      plane.rows.push(samplesOf(coefficients, w * BLOCK_PX).slice());
    };
    const wishes = [{ options: NO_OUTPUT | COPY_NONE, isSeen: true }];
    const read = transformed(
      jpeg,
      wishes,
      () => keep,
      () => true,
    );
    if (!read) throw new Error('The blocks that were made anew cannot be read.');
    return planes;
  }

  return (jpeg, { samplings, isProgressive, cuts, remade }) => {
    const places = samplings.map((sampling) => placesOf(cuts, sampling, samplings));
    let made: Plane[][] | null = null;
    const wishes: Transform[] = [
      ...cuts.map((cut) => ({ cut, options: CROP | COPY_NONE })),
      { options: COPY_NONE | (isProgressive ? PROGRESSIVE : 0), isSeen: true },
    ];
    const onRow =
      (output: (index: number) => Uint8Array): Row =>
      (coefficients, { y, w }, _, component) => {
        made ??= cuts.map((__, index) => planesOf(remade(output(index), index)));
        for (const [index, { left, top }] of places[component].entries()) {
          const { across, rows } = made[index][component];
          const row = rows.at(y / BLOCK_PX - top);
          if (!row || y / BLOCK_PX < top) continue;
          const blocks = Math.min(across, w / BLOCK_PX - left);
          const whole = samplesOf(coefficients, w * BLOCK_PX);
          whole.set(row.subarray(0, blocks * COEFFICIENTS), left * COEFFICIENTS);
        }
      };
    return transformed(jpeg, wishes, onRow, (output) => output(cuts.length).slice());
  };
}

/** Where cuts begin in a component, in its blocks. */
function placesOf(cuts: readonly Box[], { across, down }: Sampling, all: readonly Sampling[]) {
  // The samples of a single component are in blocks of 8, whatever its factors say.
  const single = all.length === 1;
  const most = (side: keyof Sampling) => Math.max(...all.map((one) => one[side]));
  return cuts.map(({ x, y }) => ({
    left: single ? x / BLOCK_PX : (x / (BLOCK_PX * most('across'))) * across,
    top: single ? y / BLOCK_PX : (y / (BLOCK_PX * most('down'))) * down,
  }));
}

function transformBytes(wishes: readonly Transform[], filter: bigint): Uint8Array {
  const bytes = new DataView(new ArrayBuffer(TRANSFORM_BYTES * wishes.length));
  for (const [index, { cut, options, isSeen }] of wishes.entries()) {
    const at = TRANSFORM_BYTES * index;
    const { x, y, width, height } = cut ?? { x: 0, y: 0, width: 0, height: 0 };
    for (const [place, value] of [x, y, width, height].entries()) {
      bytes.setInt32(at + 4 * place, value, true);
    }
    bytes.setInt32(at + OPTIONS_AT, options, true);
    if (isSeen) bytes.setBigUint64(at + FILTER_AT, filter, true);
  }
  return new Uint8Array(bytes.buffer);
}
