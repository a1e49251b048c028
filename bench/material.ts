import { copyFileSync, existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

/** Photos of 24 megapixels, as a camera writes them; made once from the demo photos and kept. */

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const FOLDER = join(ROOT, '.cache', 'bench');
const WIDTH = 6_000;
const HEIGHT = 4_000;
const QUALITY = 92;

const SUBJECTS = [
  'NC26_0043_cliffs-after-the-swell',
  'NC26_0098_marram-on-the-dunes',
  'NC26_0164_stars-over-the-stacks',
  'NC26_0338_harbour-lights',
];

export const MARK = join(ROOT, 'demo', 'marks', 'signature.svg');

/** Paths of the four different photos. */
export async function cameraPhotos(): Promise<string[]> {
  mkdirSync(FOLDER, { recursive: true });
  const paths: string[] = [];
  for (const subject of SUBJECTS) {
    const path = join(FOLDER, `${subject}.jpg`);
    if (!existsSync(path)) {
      await sharp(join(ROOT, 'demo', 'photos', `${subject}.jpg`))
        .resize(WIDTH, HEIGHT, { fit: 'fill' })
        .sharpen()
        .jpeg({ quality: QUALITY, chromaSubsampling: '4:2:0' })
        .toFile(path);
    }
    paths.push(path);
  }
  return paths;
}

/** A folder of `count` photos, the four taking turns. */
export async function folderOf(count: number, folder: string): Promise<string[]> {
  const photos = await cameraPhotos();
  mkdirSync(folder, { recursive: true });
  return Array.from({ length: count }, (_, index) => {
    const path = join(folder, `${String(index).padStart(4, '0')}.jpg`);
    copyFileSync(photos[index % photos.length], path);
    return path;
  });
}
