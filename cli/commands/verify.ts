import { resolve } from 'node:path';
import { MARKS_MAX } from '#core/contract/preset';
import type { Box } from '#core/placement/geometry';
import { Imaging } from '#server/imaging/pool/imaging';
import type { VerifiedOutput } from '#server/imaging/readBack/verifyOutput';
import { CallError, EXIT } from '../exit.ts';
import { wholeNumber } from '../wholeNumber.ts';

export interface VerifyOptions {
  readonly marks?: string;
  readonly json?: true;
}

/** Opens an output again and compares it with its photo (contract, From step 7 on). */
export async function verify(
  source: string,
  output: string,
  { marks, json }: VerifyOptions,
): Promise<number> {
  const most = wholeNumber('--marks', marks, 1, 0, MARKS_MAX);
  const imaging = new Imaging();
  try {
    const verified = await imaging.verify(resolve(source), resolve(output), most);
    if (!verified.ok) throw new CallError(`${source}: ${verified.reason}`);
    const found = verified.value;
    process.stdout.write(json ? `${JSON.stringify(jsonOf(found))}\n` : `${sentenceOf(found)}\n`);
    if (found.problem !== null) process.stderr.write(`light-crest: ${output}: ${found.problem}\n`);
    return found.problem === null ? EXIT.done : EXIT.someFailed;
  } finally {
    imaging.close();
  }
}

function jsonOf(found: VerifiedOutput) {
  const { decodes, frame, orientation, profile, mark, marks, elsewhere, problem } = found;
  return {
    ...{ decodes, frame, orientation, profile, elsewhere, problem },
    ...{ mark: mark ?? { found: false, box: null }, marks },
  };
}

function sentenceOf({ frame, profile, marks, elsewhere }: VerifiedOutput): string {
  const parts = [
    frame ? `${frame.width} × ${frame.height} px` : 'cannot be opened',
    frame ? (profile ?? 'no profile') : null,
    ...(marks.length > 0 ? marks.map(placeOf) : ['no mark found']),
    elsewhere
      ? `elsewhere ${elsewhere.mean.toFixed(2)} of 255 apart, ${elsewhere.worst} at most`
      : null,
  ];
  return parts.filter(Boolean).join('; ');
}

function placeOf({ x, y, width, height }: Box): string {
  const [left, top, across, down] = [x, y, width, height].map(Math.round);
  return `mark in ${across} × ${down} px at ${left}, ${top}`;
}
