import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { MarkView, ScanView } from '#core/contract/http';
import { ensureNodeBuilt, root } from '../scripts/house.mjs';
import { startServer } from '../tests/helpers/serverProcess.ts';
import { ask } from './ask.ts';
import { atMost, median, secondsOf, told, type Row } from './measure.ts';

const SIGNATURE_PHOTO = join(root, 'demo', 'marks', 'signature-phone.jpg');
/** Each start of a server is cold once. */
const STARTS = 3;

/** A phone photo of a signature becomes a mark: how soon it is there, and its full size behind it. */
export async function keptLiftBench(folder: string): Promise<Row[]> {
  process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();
  const data = join(folder, 'kept lift');
  const photo = readFileSync(SIGNATURE_PHOTO);
  const [draft, whole]: [number[], number[]] = [[], []];
  for (let round = 0; round < STARTS; round++) {
    const server = await startServer(data, folder);
    try {
      const scan = await ask<ScanView>(server, 'POST', `/scans?name=${round}.jpg`, photo);
      for (let keep = 0; keep < 2; keep++) {
        const wish = { settings: {}, name: 'Kept' };
        let mark: MarkView | undefined;
        const answered = await secondsOf(async () => {
          mark = await ask<MarkView>(server, 'POST', `/scans/${scan.id}/lift`, wish);
        });
        const finished = await secondsOf(() => ask(server, 'GET', `/marks/${mark?.id}/design`));
        draft.push(answered);
        whole.push(answered + finished);
      }
    } finally {
      await server.kill();
    }
  }
  const cold = (times: readonly number[]): number => median(times.filter((_, at) => at % 2 === 0));
  const warm = (times: readonly number[]): number => median(times.filter((_, at) => at % 2 === 1));
  return [
    atMost('start: Keep of a 12-megapixel photo, just brought in', cold(draft), 1, ' s'),
    atMost('start: Keep of a 12-megapixel photo, again', warm(draft), 1, ' s'),
    told('start: its full size is there, just brought in', cold(whole), ' s'),
    told('start: its full size is there, again', warm(whole), ' s'),
  ];
}
