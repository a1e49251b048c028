import { markModelSchema, type MarkModel } from '../contract/mark.ts';
import { validate } from '../contract/explain.ts';
import { failure, success, type Result } from '../result.ts';

/** A mark as a file: a plain SVG that draws it, with the editable model in `metadata`. */

const MODEL_ID = 'light-crest-mark';
const MODEL_PATTERN = new RegExp(
  `<metadata[^>]*\\bid="${MODEL_ID}"[^>]*>(?:<!\\[CDATA\\[)?([\\s\\S]*?)(?:\\]\\]>)?</metadata>`,
);

/** @param svg plain SVG whose root is its first element */
export function withMarkModel(svg: string, model: MarkModel): string {
  const json = JSON.stringify(model).replace(/[&<>]/g, (sign) => ESCAPES[sign]);
  const metadata = `<metadata id="${MODEL_ID}">${json}</metadata>`;
  return svg.replace(/<svg\b[^>]*?(\/?)>/, (root, closes: string) =>
    closes ? `${root.slice(0, -2)}>${metadata}</svg>` : root + metadata,
  );
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;' };
const UNESCAPES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** The model in an SVG; null where it holds none, a failure where the model is damaged. */
export function markModelOf(svg: string): Result<MarkModel | null> {
  const text = MODEL_PATTERN.exec(svg)?.[1];
  if (text === undefined) return success(null);
  const json = text.replace(/&(amp|lt|gt|quot|apos);/g, (_, name: string) => UNESCAPES[name]);
  try {
    const checked = validate(markModelSchema, JSON.parse(json));
    return checked.ok ? checked : failure(checked.reason);
  } catch {
    return failure('expected JSON, found something else');
  }
}
