import { resolve } from 'node:path';
import type { ReadBack } from '#core/verify/readBack';
import { Imaging } from '#server/imaging/pool/imaging';
import { CallError, EXIT } from '../exit.ts';

export interface VerifyOptions {
  readonly json?: true;
}

/** Opens an output again and compares it with its photo (contract, From step 7 on). */
export async function verify(
  source: string,
  output: string,
  { json }: VerifyOptions,
): Promise<number> {
  const imaging = new Imaging();
  try {
    const verified = await imaging.verify(resolve(source), resolve(output));
    if (!verified.ok) throw new CallError(`${source}: ${verified.reason}`);
    const found = verified.value;
    process.stdout.write(json ? `${JSON.stringify(jsonOf(found))}\n` : `${sentenceOf(found)}\n`);
    if (found.problem !== null) process.stderr.write(`light-crest: ${output}: ${found.problem}\n`);
    return found.problem === null ? EXIT.done : EXIT.someFailed;
  } finally {
    imaging.close();
  }
}

function jsonOf({ decodes, frame, orientation, profile, mark, elsewhere, problem }: ReadBack) {
  return {
    ...{ decodes, frame, orientation, profile, elsewhere, problem },
    mark: mark ?? { found: false, box: null },
  };
}

function sentenceOf({ frame, profile, mark, elsewhere }: ReadBack): string {
  const box = mark?.box;
  const parts = [
    frame ? `${frame.width} × ${frame.height} px` : 'cannot be opened',
    frame ? (profile ?? 'no profile') : null,
    box
      ? `mark in ${Math.round(box.width)} × ${Math.round(box.height)} px at ` +
        `${Math.round(box.x)}, ${Math.round(box.y)}`
      : 'no mark found',
    elsewhere
      ? `elsewhere ${elsewhere.mean.toFixed(2)} of 255 apart, ${elsewhere.worst} at most`
      : null,
  ];
  return parts.filter(Boolean).join('; ');
}
