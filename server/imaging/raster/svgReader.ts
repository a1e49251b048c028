import { sharp } from '../sharp.ts';

const SVG_READER = { operation: ['VipsForeignLoadSvg'] };
let readings = 0;

/** SVG is read only while something of ours is drawn: a file under the name of a photo must not be read as one. */
export async function withSvgReader<Drawn>(draw: () => Promise<Drawn>): Promise<Drawn> {
  if (readings++ === 0) sharp.unblock(SVG_READER);
  try {
    return await draw();
  } finally {
    if (--readings === 0) sharp.block(SVG_READER);
  }
}
