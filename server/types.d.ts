/** Types of packages that ship none, as far as they are used here. */

declare module 'heic-decode' {
  export default function decode(input: {
    buffer: Uint8Array;
  }): Promise<{ width: number; height: number; data: Uint8ClampedArray }>;
}

declare module 'wawoff2' {
  /** A WOFF2 file as the plain font in it; rejects a damaged one. */
  export function decompress(bytes: Uint8Array): Promise<Uint8Array>;
  export function compress(bytes: Uint8Array): Promise<Uint8Array>;
}

declare module 'archiver' {
  import type { Transform } from 'node:stream';

  export class ZipArchive extends Transform {
    constructor(options: { store?: boolean });
    file(path: string, data: { name: string }): this;
    finalize(): Promise<void>;
  }
}
