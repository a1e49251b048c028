import { jpegLibrary } from '../jpeg/jpegLibrary.ts';
import { splicedBlocks } from './entropy/splicedBlocks.ts';
import { runToolNow } from './jpegTools.ts';
import { partsOf, type JpegParts } from './untouchedSegments.ts';
import { encoderWords, portablePixmap, type Patching } from './patching.ts';

/**
 * Marks all patches of a JPEG without programs that each read and write the file: where its bits can be moved
 * along as they are, so, and else coefficient by coefficient.
 *
 * @returns null: it is for those programs, which can tell what is wrong with a file
 */
export async function patchedInMemory(patching: Patching): Promise<JpegParts | null> {
  const { jpeg, facts, patches, marked } = patching;
  const library = jpegLibrary();
  if (!library) return null;
  const words = await encoderWords(facts);
  const known = new Map<number, Buffer>();
  const remade = (cut: Uint8Array, index: number): Buffer => {
    const before = known.get(index);
    if (before) return before;
    const { width, height } = patches[index];
    const samples = library.decodeNow(cut, { width, height });
    if (!samples) throw new Error('what was cut out cannot be read');
    const part = marked({ ...samples, channels: 3 }, patches[index]);
    const made = runToolNow('cjpeg', words, portablePixmap(part));
    known.set(index, made);
    return made;
  };
  const spliced = splicedBlocks(jpeg, facts, { cuts: patches, remade });
  // The library writes no restarts here.
  if (spliced || facts.restartBlocks > 0) return spliced;
  const made = library.replaceBlocks(jpeg, {
    ...{ cuts: patches, samplings: facts.components, remade },
    isProgressive: facts.process === 'progressive',
  });
  return made && partsOf(Buffer.from(made.buffer, made.byteOffset, made.byteLength));
}
