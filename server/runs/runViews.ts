import { basename } from 'node:path';
import type { RunDocumentsView, RunItemView, RunView } from '#core/contract/http';
import { readsBetter, type Readability } from '#core/readability/measure';
import type { ItemResult, RunItemRow } from '../db/runItemRows.ts';
import type { RunCounts, RunRow } from '../db/runs.ts';
import type { RunDocumentRow } from '../db/runDocuments.ts';
import type { RunPace } from './runPace.ts';

export function runView(
  run: RunRow,
  counts: RunCounts,
  documents: readonly RunDocumentRow[],
  pace: RunPace | null,
): RunView {
  const left = counts.total - counts.written - counts.skipped - counts.failed - counts.cancelled;
  return {
    id: run.id,
    batchId: run.batchId,
    batchName: run.batchName,
    deliveries: run.deliveries.map(({ rule, ...rest }) => ({
      ...{ ...rest, fileType: rule.file.type, kind: rule.kind },
    })),
    documents: documentsViews(run, documents),
    presetName: [run, ...run.over].map(({ presetName }) => presetName).join(' + '),
    state: run.state,
    problem: run.problem,
    turn: run.turn,
    createdAt: run.createdAt,
    finishedAt: run.finishedAt,
    ...counts,
    told: nextTold(),
    remainingMs: run.state === 'running' ? (pace?.remainingMs(left) ?? null) : null,
  };
}

function documentsViews(run: RunRow, documents: readonly RunDocumentRow[]): RunDocumentsView[] {
  return run.deliveries.flatMap(({ rule }, at) => {
    if (rule.kind === 'files') return [];
    const own = documents.filter(({ delivery }) => delivery === at + 1);
    const written = own.filter(({ status }) => status === 'written');
    const output = written.at(0)?.output ?? null;
    return {
      ...{ delivery: at + 1, written: written.length },
      skipped: own.filter(({ status }) => status === 'skipped').length,
      outputName: output === null ? null : basename(output),
      bytes: written.reduce((sum, { bytes }) => sum + bytes, 0),
      error: own.find(({ status }) => status === 'failed')?.error ?? null,
    };
  });
}

/** With several marks an output is as good as the one that reads worst. */
function worstReadability(result: ItemResult | null): Readability | null {
  const all = [
    result?.readability ?? null,
    ...(result?.others ?? []).map((one) => one.readability),
  ];
  return all.reduce((worst, one) => (one && (!worst || readsBetter(worst, one)) ? one : worst));
}

let lastTold = 0;

/** By the clock, so that it also grows from one server to the next. */
function nextTold(): number {
  lastTold = Math.max(lastTold + 1, Date.now() * 1_000);
  return lastTold;
}

export function runItemView(item: RunItemRow): RunItemView {
  return {
    id: item.id,
    number: item.number,
    delivery: item.delivery,
    photoId: item.photoId,
    sourceName: item.sourceName,
    status: item.status,
    outputName: item.output === null ? null : basename(item.output),
    error: item.error,
    note: item.note,
    frame: item.result?.frame ?? null,
    placement: item.result?.placement ?? null,
    readability: worstReadability(item.result),
    readBack: item.result?.readBack ?? null,
    madeBy: item.result?.madeBy ?? null,
    bytesBefore: item.bytesBefore,
    bytesAfter: item.bytesAfter,
    durationMs: item.durationMs,
  };
}
