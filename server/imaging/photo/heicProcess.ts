import decode from 'heic-decode';
import { messageOf } from '../imageErrors.ts';
import type { HeicAnswer } from './heic.ts';

/** The process that decodes HEIC photos; killed when one takes too long. */
process.on('message', ({ bytes }: { bytes: Uint8Array }) => {
  decode({ buffer: Buffer.from(bytes) }).then(
    ({ data, width, height }) =>
      answer({ ok: true, reason: '', data: new Uint8Array(data.buffer), width, height }),
    (error: unknown) =>
      answer({ ok: false, reason: messageOf(error), data: new Uint8Array(0), width: 0, height: 0 }),
  );
});
process.on('disconnect', () => process.exit(0));

function answer(result: HeicAnswer): void {
  process.send?.(result);
}
