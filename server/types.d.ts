/** Types of two packages that ship none, as far as they are used here. */

declare module 'heic-decode' {
  export default function decode(input: {
    buffer: Uint8Array;
  }): Promise<{ width: number; height: number; data: Uint8ClampedArray }>;
}

declare module 'archiver' {
  import type { Transform } from 'node:stream';

  export class ZipArchive extends Transform {
    constructor(options: { store?: boolean });
    file(path: string, data: { name: string }): this;
    finalize(): Promise<void>;
  }
}
