import { readFileSync, writeFileSync } from 'node:fs';
import sharp, { type Sharp } from 'sharp';

/** Photos for tests, made with a plain imaging script that shares nothing with the application. */

export interface Scene {
  readonly width: number;
  readonly height: number;
  /** Different photos for different seeds. */
  readonly seed?: number;
}

/** Smooth colour with a little texture: what photos are like to an encoder. */
export function scenePixels({ width, height, seed = 1 }: Scene): Buffer {
  const data = Buffer.alloc(width * height * 3);
  let noise = seed * 7_919;
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      noise = (noise * 1_103_515_245 + 12_345) & 0x7fffffff;
      const grain = (noise >> 16) % 9;
      data[at] = 40 + (120 * x) / width + grain;
      data[at + 1] = 60 + (110 * y) / height + grain;
      data[at + 2] = 90 + ((seed * 37) % 80) + grain;
    }
  }
  return data;
}

export function scene(wish: Scene): Sharp {
  const { width, height } = wish;
  return sharp(scenePixels(wish), { raw: { width, height, channels: 3 } });
}

export async function writeJpeg(path: string, wish: Scene): Promise<void> {
  await scene(wish).jpeg({ quality: 92 }).toFile(path);
}

/** A JPEG whose EXIF holds orientation, camera, position, and a thumbnail of the unmarked photo. */
export async function writeCameraJpeg(
  path: string,
  wish: Scene & { orientation?: number; taken?: string },
): Promise<void> {
  const plain = await scene(wish)
    .jpeg({ quality: 92 })
    .withExif({
      IFD0: {
        Make: 'Halden Optics',
        Model: 'HX-2',
        Artist: 'Ines Marlow',
        Copyright: 'Quillon Bay',
      },
      IFD2: { DateTimeOriginal: wish.taken ?? '2026:04:11 06:11:02', LensModel: 'HX 24-70mm F2.8' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '61/1 12/1 0/1' },
    })
    .withMetadata({ orientation: wish.orientation ?? 1 })
    .toBuffer();
  writeFileSync(path, await withThumbnail(plain, wish));
}

/** Appends a second directory with a JPEG thumbnail to the EXIF block, as cameras do. */
async function withThumbnail(jpeg: Buffer, wish: Scene): Promise<Buffer> {
  const at = jpeg.indexOf(Buffer.from('Exif\0\0', 'latin1'));
  const segment = at - 4;
  const block = jpeg.subarray(at + 6, segment + 2 + jpeg.readUInt16BE(segment + 2));
  const little = block[0] === 0x49;
  const u16 = (b: Buffer, v: number, o: number) =>
    little ? b.writeUInt16LE(v, o) : b.writeUInt16BE(v, o);
  const u32 = (b: Buffer, v: number, o: number) =>
    little ? b.writeUInt32LE(v, o) : b.writeUInt32BE(v, o);
  const thumbnail = await scene(wish).resize(160).jpeg().toBuffer();
  const first = little ? block.readUInt32LE(4) : block.readUInt32BE(4);
  const count = little ? block.readUInt16LE(first) : block.readUInt16BE(first);
  const directory = Buffer.alloc(2 + 2 * 12 + 4);
  u16(directory, 2, 0);
  const thumbnailAt = block.length + directory.length;
  for (const [index, tag, value] of [
    [0, 0x0201, thumbnailAt],
    [1, 0x0202, thumbnail.length],
  ]) {
    const entry = 2 + index * 12;
    u16(directory, tag, entry);
    u16(directory, 4, entry + 2);
    u32(directory, 1, entry + 4);
    u32(directory, value, entry + 8);
  }
  const whole = Buffer.concat([block, directory, thumbnail]);
  u32(whole, block.length, first + 2 + count * 12);
  const head = Buffer.from(jpeg.subarray(segment, segment + 4));
  head.writeUInt16BE(whole.length + 8, 2);
  return Buffer.concat([
    jpeg.subarray(0, segment),
    head,
    Buffer.from('Exif\0\0', 'latin1'),
    whole,
    jpeg.subarray(at + 6 + block.length),
  ]);
}

/** A square mark: half red, half blue, with transparent padding round it. */
export async function writePaddedMark(path: string): Promise<void> {
  const side = 200;
  const data = Buffer.alloc(side * side * 4);
  for (let y = 50; y < 150; y++) {
    for (let x = 30; x < 170; x++)
      data.set(x < 100 ? [255, 0, 0, 255] : [0, 0, 255, 255], (y * side + x) * 4);
  }
  await sharp(data, { raw: { width: side, height: side, channels: 4 } })
    .png()
    .toFile(path);
}

export const MARK_SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 100"><rect x="20" y="10" width="200" height="80" fill="#d01030"/></svg>';

export function cutShort(from: string, to: string, share: number): void {
  const bytes = readFileSync(from);
  writeFileSync(to, bytes.subarray(0, Math.floor(bytes.length * share)));
}

/** Decoded RGB pixels of a file, by an independent path. */
export async function pixelsOf(path: string | Buffer) {
  const { data, info } = await sharp(path)
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}
