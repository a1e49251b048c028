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
    directory(path: string, name: string): this;
    append(content: string | Uint8Array, data: { name: string }): this;
    finalize(): Promise<void>;
  }
}

declare module 'svg-to-pdfkit' {
  /** 0 to 255 a channel, and an opacity; null: none that is known. */
  type Colour = [number[], number] | null | undefined;

  export default function svgToPdf(
    document: PDFKit.PDFDocument,
    svg: string,
    x: number,
    y: number,
    options: {
      width: number;
      height: number;
      /** Units of the drawing are points. */
      assumePt: boolean;
      preserveAspectRatio: string;
      /** Another colour for each that is drawn with. */
      colorCallback?: (drawn: Colour) => Colour;
    },
  ): void;
}
