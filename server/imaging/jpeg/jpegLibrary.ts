import { createRequire } from 'node:module';
import type koffiPackage from 'koffi';
import pLimit from 'p-limit';
import type { Size } from '#core/placement/geometry';
import { blockReplacer, type BlockReplacer } from './blockReplacer.ts';
import { giveRoomBack, takeRoom } from './sampleRoom.ts';

/**
 * The JPEG library of the system (libjpeg-turbo's TurboJPEG interface, part of what Debian's
 * libjpeg-turbo-progs brings). It decodes to the very samples that the imaging library does, in half the
 * time at full size, and straight into memory of ours. Where it is missing, all is done without it.
 */
export interface JpegLibrary {
  /**
   * The samples lie in room that can be given back.
   *
   * @param stored the size that the file is known to have
   * @returns null where it has another, has not three components of 8 bits, or is remarked on in any way
   */
  decode(jpeg: Uint8Array, stored: Size, shrink: Shrink): Promise<RgbSamples | null>;
  /** The same of a small file, at once, whose samples lie in memory of their own. Grey becomes three components. */
  decodeNow(jpeg: Uint8Array, stored: Size): RgbSamples | null;
  replaceBlocks: BlockReplacer;
  /**
   * A baseline file with a restart (ITU T.81, E.1.4) after each row of blocks: what is damaged one day costs its
   * row, not all below it, and each row can be read alone. They are 3 bytes each.
   *
   * @param tables Huffman tables: the usual ones, or ones made for the file, which takes a second look at it
   */
  encode(
    samples: RgbSamples,
    quality: number,
    chroma: Chroma,
    tables: HuffmanTables,
  ): Promise<Uint8Array>;
}

export interface RgbSamples extends Size {
  readonly data: Uint8ClampedArray;
}

/** By how much a decoder makes a picture smaller of its own, which saves most of its time. */
export type Shrink = 1 | 2 | 4 | 8;
export type Chroma = '4:4:4' | '4:2:0';
export type HuffmanTables = 'usual' | 'own';

/** Names by which loaders of libraries find it. */
const NAMES: Readonly<Partial<Record<NodeJS.Platform, readonly string[]>>> = Object.freeze({
  linux: ['libturbojpeg.so.0'],
  darwin: ['/opt/homebrew/lib/libturbojpeg.0.dylib', '/usr/local/lib/libturbojpeg.0.dylib'],
});

const RGB = 0;
const CHANNELS = 3;
/** TJSAMP: how its interface names the sampling of colours. */
const SAMPLINGS: Readonly<Record<Chroma, number>> = Object.freeze({ '4:4:4': 0, '4:2:0': 2 });
/** TJCS: RGB and YCbCr, and with them grey; others are for printing. */
const THREE_COMPONENTS: ReadonlySet<number> = new Set([0, 1]);
const ANY_COLOURS: ReadonlySet<number> = new Set([...THREE_COMPONENTS, 2]);

const ACCURATE_DCT = 1 << 12;
const STOP_ON_WARNING = 1 << 13;
const LIMIT_SCANS = 1 << 15;
const CAREFUL = ACCURATE_DCT | STOP_ON_WARNING | LIMIT_SCANS;

type Koffi = typeof koffiPackage;

/** Structures are laid out for pointers of this size. */
const POINTER_BYTES = 8;

/**
 * How its encoder is told of restarts, for which its interface has no word: after so many rows of blocks. Where it
 * does not listen, files are without them, and are read back whole.
 */
const RESTARTS = Object.freeze({ TJ_RESTART: '1' });
/** And of tables of its own, each time anew: it reads that as it begins. */
const TABLES: Readonly<Record<HuffmanTables, string>> = Object.freeze({ usual: '0', own: '1' });

let found: JpegLibrary | null = null;

/** Looked for until it is found: it may be installed while the server runs. */
export function jpegLibrary(): JpegLibrary | null {
  for (const name of found ? [] : (NAMES[process.platform] ?? [])) {
    try {
      found = bound(name);
      break;
    } catch {
      // It is not there, or this machine has no calls into libraries.
    }
  }
  return found;
}

function bound(name: string): JpegLibrary {
  // Its package has nothing to load on some machines, and says so by an error.
  const koffi = createRequire(import.meta.url)('koffi') as Koffi;
  if (koffi.sizeof('void *') !== POINTER_BYTES) throw new Error('Expected a machine of 64 bits.');
  const library = koffi.load(name);
  Object.assign(process.env, RESTARTS);
  const beginDecoding = library.func('void *tjInitDecompress()');
  const beginEncoding = library.func('void *tjInitCompress()');
  const end = library.func('int tjDestroy(void *handle)');
  const reasonOf = library.func('const char *tjGetErrorStr2(void *handle)');
  const free = library.func('void tjFree(void *bytes)');
  const readHeader = library.func(
    'int tjDecompressHeader3(void *handle, const uint8_t *jpeg, unsigned long bytes, ' +
      '_Out_ int *width, _Out_ int *height, _Out_ int *sampling, _Out_ int *colours)',
  );
  const decompress = library.func(
    'int tjDecompress2(void *handle, const uint8_t *jpeg, unsigned long bytes, ' +
      'uint8_t *samples, int width, int pitch, int height, int format, int flags)',
  );
  const decompressInThread = inThread(decompress);
  const compress = inThread(
    library.func(
      'int tjCompress2(void *handle, const uint8_t *samples, int width, int pitch, int height, ' +
        'int format, void *jpeg, void *bytes, int sampling, int quality, int flags)',
    ),
  );

  function headerBy(
    handle: unknown,
    jpeg: Uint8Array,
    wanted: ReadonlySet<number> = THREE_COMPONENTS,
  ): Size | null {
    const [width, height, sampling, colours] = [[0], [0], [0], [0]];
    const failed = readHeader(handle, jpeg, jpeg.length, width, height, sampling, colours);
    const isRead = failed === 0 && wanted.has(colours[0]) && sampling[0] >= 0;
    return isRead ? { width: width[0], height: height[0] } : null;
  }

  return {
    async decode(jpeg, stored, shrink) {
      const handle = beginDecoding();
      try {
        if (!isAs(stored, headerBy(handle, jpeg))) return null;
        // As the library itself rounds.
        const width = Math.ceil(stored.width / shrink);
        const height = Math.ceil(stored.height / shrink);
        const data = takeRoom(width * height * CHANNELS);
        const words = [handle, jpeg, jpeg.length, data, width, 0, height, RGB, CAREFUL];
        const failed = await decompressInThread(words);
        if (failed === 0) return { data, width, height };
        giveRoomBack(data);
        return null;
      } finally {
        end(handle);
      }
    },

    decodeNow(jpeg, { width, height }) {
      const handle = beginDecoding();
      try {
        const data = new Uint8ClampedArray(width * height * CHANNELS);
        const size = headerBy(handle, jpeg, ANY_COLOURS);
        if (!isAs({ width, height }, size)) return null;
        const words = [jpeg, jpeg.length, data, width, 0, height, RGB, CAREFUL];
        return decompress(handle, ...words) === 0 ? { data, width, height } : null;
      } finally {
        end(handle);
      }
    },

    replaceBlocks: blockReplacer(koffi, library, STOP_ON_WARNING | LIMIT_SCANS),

    encode: oneByOne(async ({ data, width, height }, quality, chroma, tables) => {
      process.env.TJ_OPTIMIZE = TABLES[tables];
      // The library takes memory for the file as it needs it: told of ours, it would not ask how much that is.
      const [place, bytes] = [new BigUint64Array(1), new BigUint64Array(1)];
      const handle = beginEncoding();
      try {
        const size = [width, 0, height, RGB];
        const words = [
          handle,
          data,
          ...size,
          place,
          bytes,
          SAMPLINGS[chroma],
          quality,
          ACCURATE_DCT,
        ];
        if ((await compress(words)) !== 0) throw new Error(String(reasonOf(handle)));
        return new Uint8Array(koffi.view(place[0], Number(bytes[0]))).slice();
      } finally {
        if (place[0]) free(place[0]);
        end(handle);
      }
    }),
  };
}

/** What is told by the environment holds for all that begins, so one is over before the next begins. */
function oneByOne<Words extends unknown[], Made>(
  make: (...words: Words) => Promise<Made>,
): (...words: Words) => Promise<Made> {
  const limit = pLimit(1);
  return (...words) => limit(() => make(...words));
}

function isAs(expected: Size, size: Size | null): boolean {
  return size !== null && size.width === expected.width && size.height === expected.height;
}

type LibraryFunction = ReturnType<ReturnType<Koffi['load']>['func']>;

/** A call that leaves the thread of JavaScript free. @returns what the library's function returns */
function inThread(called: LibraryFunction): (words: unknown[]) => Promise<number> {
  return (words) =>
    new Promise((resolve, reject) => {
      called.async(...words, (error: Error | null, status: number) => {
        // Till now the library read and wrote in these; nothing else may keep them from being freed.
        words.length = 0;
        if (error) reject(error);
        else resolve(status);
      });
    });
}
