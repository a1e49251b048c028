import { markModelSchema, type MarkModel } from '../contract/mark.ts';
import { validate } from '../contract/explain.ts';
import { failure, success, type Result } from '../result.ts';

/** A mark as a file: a plain SVG that draws it, with the editable model in `metadata`. */

const MODEL_ID = 'light-crest-mark';
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
  const text = modelText(svg);
  if (text === null) return success(null);
  const json = text.replace(/&(amp|lt|gt|quot|apos);/g, (_, name: string) => UNESCAPES[name]);
  try {
    const checked = validate(markModelSchema, JSON.parse(json));
    return checked.ok ? checked : failure(checked.reason);
  } catch {
    return failure('expected JSON, found something else');
  }
}

const CDATA = { open: '<![CDATA[', close: ']]>' };

/** Looked for from its id, so that the time it takes grows with the length of the file and no faster. */
function modelText(svg: string): string | null {
  const id = svg.indexOf(`id="${MODEL_ID}"`);
  if (id < 0) return null;
  const tag = svg.lastIndexOf('<', id);
  if (!svg.startsWith('<metadata', tag)) return null;
  const start = svg.indexOf('>', id) + 1;
  const end = svg.indexOf('</metadata>', start);
  if (start === 0 || end < 0) return null;
  const text = svg.slice(start, end);
  if (!text.startsWith(CDATA.open)) return text;
  return text.slice(
    CDATA.open.length,
    text.endsWith(CDATA.close) ? -CDATA.close.length : undefined,
  );
}
