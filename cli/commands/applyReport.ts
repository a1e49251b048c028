import { cleanCrop } from '#core/placement/cleanCrop';
import type { RenderedOutput } from '#server/imaging/pass/renderJob';
import type { PhotoInput } from '../inputs.ts';
import { marksJson } from './marksJson.ts';

/** What an output came to; the fields of contract, section 6. */
export interface Report {
  readonly status: 'written' | 'skipped' | 'failed';
  readonly output: string | null;
  readonly error: string | null;
  readonly rendered: RenderedOutput | null;
}

export function failedReport(reason: string): Report {
  return { status: 'failed', output: null, error: reason, rendered: null };
}

export function printReport(
  { source }: PhotoInput,
  delivery: string,
  report: Report,
  json: boolean,
): void {
  if (json) process.stdout.write(`${JSON.stringify(jsonLine(source, delivery, report))}\n`);
  else if (report.output !== null) process.stdout.write(`${report.output}\n`);
  if (report.status === 'failed') {
    process.stderr.write(`light-crest: ${source}: ${report.error}\n`);
  } else if (report.rendered?.readBack?.problem) {
    process.stderr.write(`light-crest: ${report.output}: ${report.rendered.readBack.problem}\n`);
  } else if (report.rendered?.yearFromFile) {
    process.stderr.write(
      `light-crest: ${source}: no capture date, so the mark says ` +
        `${report.rendered.yearFromFile}, the year of the file.\n`,
    );
  } else if (report.rendered?.note) {
    process.stderr.write(`light-crest: ${source}: ${report.rendered.note}\n`);
  } else if (report.status === 'skipped' && !json) {
    process.stderr.write(`light-crest: ${source}: skipped, ${report.output} exists.\n`);
  }
}

function jsonLine(source: string, delivery: string, { status, output, error, rendered }: Report) {
  const marks = rendered?.marks ?? [];
  const copies = marks.flatMap(({ placement }) => placement.copies);
  return {
    source,
    delivery,
    output,
    status,
    error,
    frame: rendered?.frame ?? null,
    ...marksJson(marks),
    clean_crop:
      rendered && marks.length > 0
        ? cleanCrop(
            rendered.frame,
            copies.map((copy) => copy.box),
          ).share
        : null,
    verified: rendered?.readBack ? rendered.readBack.problem === null : null,
    bytes: rendered ? { before: rendered.bytesBefore, after: rendered.bytesAfter } : null,
    ms: rendered?.durationMs ?? null,
  };
}
