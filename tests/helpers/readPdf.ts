import { readFileSync } from 'node:fs';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { IDENTITY, mapped, multiplied, type Matrix } from '#core/path/matrix';

/** A PDF as another library than the one that wrote it reads it. Lengths are mm, from the upper left. */

const MM_A_POINT = 25.4 / 72;

export interface ReadBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface ReadPage {
  readonly width: number;
  readonly height: number;
  readonly images: readonly ReadBox[];
  /** Places of paths that are drawn once and painted again, and of all others. */
  readonly outlines: readonly ReadBox[];
  readonly paths: readonly ReadBox[];
}

export interface ReadPdf {
  readonly pages: number;
  readonly title: string | undefined;
  page(number: number): Promise<ReadPage>;
  close(): Promise<void>;
}

export async function openPdf(path: string): Promise<ReadPdf> {
  const task = getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 });
  const pdf = await task.promise;
  const { info } = await pdf.getMetadata();
  return {
    pages: pdf.numPages,
    title: (info as { Title?: string }).Title,
    async page(number) {
      const page = await pdf.getPage(number);
      const [, , width, height] = page.view;
      const { fnArray, argsArray } = await page.getOperatorList();
      page.cleanup();
      return readPage(fnArray, argsArray as unknown[][], width, height);
    },
    close: () => task.destroy(),
  };
}

function readPage(
  operators: readonly number[],
  words: readonly (readonly unknown[])[],
  width: number,
  height: number,
): ReadPage {
  const images: ReadBox[] = [];
  const outlines: ReadBox[] = [];
  const paths: ReadBox[] = [];
  let depth = 0;
  let matrix: Matrix = IDENTITY;
  const stack: Matrix[] = [];
  const boxOf = (x0: number, y0: number, x1: number, y1: number): ReadBox => {
    const corners = [mapped(matrix, x0, y0), mapped(matrix, x1, y0)];
    corners.push(mapped(matrix, x0, y1), mapped(matrix, x1, y1));
    const xs = corners.map(([x]) => x * MM_A_POINT);
    const ys = corners.map(([, y]) => (height - y) * MM_A_POINT);
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
  };
  for (const [at, operator] of operators.entries()) {
    const given = words[at];
    if (operator === OPS.save) stack.push(matrix);
    else if (operator === OPS.restore) matrix = stack.pop() ?? IDENTITY;
    else if (operator === OPS.transform) {
      matrix = multiplied(matrix, given as unknown as Matrix);
    } else if (operator === OPS.paintImageXObject) images.push(boxOf(0, 0, 1, 1));
    else if (operator === OPS.paintFormXObjectBegin) {
      stack.push(matrix);
      depth++;
      const [own] = given as [Matrix | null];
      if (own) matrix = multiplied(matrix, own);
    } else if (operator === OPS.paintFormXObjectEnd) {
      depth--;
      matrix = stack.pop() ?? IDENTITY;
    } else if (operator === OPS.constructPath) {
      const [painting, , reach] = given as [number, unknown, ArrayLike<number> | null];
      // A path that only clips is not drawn.
      if (painting === OPS.endPath || !reach) continue;
      (depth > 0 ? outlines : paths).push(boxOf(reach[0], reach[1], reach[2], reach[3]));
    }
  }
  const size = { width: width * MM_A_POINT, height: height * MM_A_POINT };
  return { ...size, images, outlines, paths };
}
