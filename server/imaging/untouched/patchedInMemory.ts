import { jpegLibrary } from '../jpeg/jpegLibrary.ts';
import { runToolNow } from './jpegTools.ts';
import { encoderWords, portablePixmap, type Patching } from './patching.ts';

/**
 * Marks all patches of a JPEG while its coefficients are in memory, which takes half the time of programs
 * that each read the file.
 *
 * @returns the same bytes that those make; null: it is for them, which can tell what is wrong with a file
 */
export async function patchedInMemory(patching: Patching): Promise<Buffer | null> {
  const { jpeg, facts, patches, marked } = patching;
  const library = jpegLibrary();
  // Restarts are written by those alone.
  if (!library || facts.restartBlocks > 0) return null;
  const words = await encoderWords(facts);
  const remade = (cut: Uint8Array, index: number): Uint8Array => {
    const { width, height } = patches[index];
    const samples = library.decodeNow(cut, { width, height });
    if (!samples) throw new Error('what was cut out cannot be read');
    const part = marked({ ...samples, channels: 3 }, patches[index]);
    return runToolNow('cjpeg', words, portablePixmap(part));
  };
  const made = library.replaceBlocks(jpeg, {
    ...{ cuts: patches, samplings: facts.components, remade },
    isProgressive: facts.process === 'progressive',
  });
  return made && Buffer.from(made.buffer, made.byteOffset, made.byteLength);
}
