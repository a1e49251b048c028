import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { exifForOutput } from './exifBlock.ts';
import { leftOutOfJpeg, withJpegMetadata } from './jpegSegments.ts';
import { iptcOnly } from './imageResources.ts';
import { withPngMetadata } from './pngChunks.ts';
import { withTiffExif } from './tiffDirectory.ts';
import { xmpForOutput } from './xmpPacket.ts';

interface Tag {
  readonly tag: number;
  readonly type: number;
  readonly value: number;
}

/** A TIFF structure of one directory, a link to a second, and bytes after it. */
function block(little: boolean, tags: readonly Tag[], tail: Buffer = Buffer.alloc(0)): Buffer {
  const length = 8 + 2 + tags.length * 12 + 4;
  const bytes = Buffer.alloc(length);
  const u16 = (value: number, at: number) =>
    little ? bytes.writeUInt16LE(value, at) : bytes.writeUInt16BE(value, at);
  const u32 = (value: number, at: number) =>
    little ? bytes.writeUInt32LE(value, at) : bytes.writeUInt32BE(value, at);
  bytes.write(little ? 'II' : 'MM', 'latin1');
  u16(42, 2);
  u32(8, 4);
  u16(tags.length, 8);
  tags.forEach(({ tag, type, value }, index) => {
    const at = 10 + index * 12;
    u16(tag, at);
    u16(type, at + 2);
    u32(1, at + 4);
    if (type === 3) u16(value, at + 8);
    else u32(value, at + 8);
  });
  u32(tail.length > 0 ? length : 0, length - 4);
  return Buffer.concat([bytes, tail]);
}

const TINY_JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xdb, 1, 2, 3, 0xff, 0xd9]);

describe('EXIF for an output', () => {
  it.each([true, false])(
    'is upright, of its new size, without thumbnail (little-endian: %s)',
    (little) => {
      const source = block(
        little,
        [
          { tag: 0x0100, type: 4, value: 6000 },
          { tag: 0x0101, type: 3, value: 4000 },
          { tag: 0x0112, type: 3, value: 6 },
        ],
        TINY_JPEG,
      );
      const before = Buffer.from(source);
      const out = Buffer.from(
        exifForOutput(source, { width: 800, height: 1200, hasPosition: true }) ?? [],
      );
      const u16 = (at: number) => (little ? out.readUInt16LE(at) : out.readUInt16BE(at));
      const u32 = (at: number) => (little ? out.readUInt32LE(at) : out.readUInt32BE(at));
      expect([u32(18), u16(30), u16(42)]).toEqual([800, 1200, 1]);
      expect(u32(46)).toBe(0);
      expect(out.includes(Buffer.from([0xff, 0xd8, 0xff]))).toBe(false);
      expect(out.length).toBe(before.length - TINY_JPEG.length);
      expect(source.equals(before)).toBe(true);
    },
  );

  it('wipes a preview inside without moving what follows it', () => {
    const source = Buffer.concat([
      block(true, [], Buffer.from('note')),
      TINY_JPEG,
      Buffer.from('after'),
    ]);
    const out = Buffer.from(
      exifForOutput(source, { width: 1, height: 1, hasPosition: true }) ?? [],
    );
    expect(out.length).toBe(source.length);
    expect(out.subarray(-5).toString()).toBe('after');
    expect(out.includes(Buffer.from([0xff, 0xd8]))).toBe(false);
  });

  it('is nothing where the block is none, or points outside itself', () => {
    expect(
      exifForOutput(Buffer.from('no EXIF at all here'), { width: 1, height: 1, hasPosition: true }),
    ).toBeNull();
    const outside = block(true, [{ tag: 0x8769, type: 4, value: 60_000 }]);
    expect(exifForOutput(outside, { width: 1, height: 1, hasPosition: true })).toBeNull();
  });
});

describe('TIFF', () => {
  it('gets the camera’s tags beside its own, whatever their byte order', () => {
    const own = block(true, [{ tag: 0x0100, type: 4, value: 33 }]);
    const camera = block(false, [
      { tag: 0x0100, type: 4, value: 6000 },
      { tag: 0x4746, type: 3, value: 5 },
    ]);
    const tiff = withTiffExif(own, camera);
    const at = tiff.readUInt32LE(4);
    expect(at).toBeGreaterThanOrEqual(own.length);
    expect(tiff.readUInt16LE(at)).toBe(2);
    expect([tiff.readUInt16LE(at + 2), tiff.readUInt32LE(at + 10)]).toEqual([0x0100, 33]);
    expect([tiff.readUInt16LE(at + 14), tiff.readUInt16LE(at + 22)]).toEqual([0x4746, 5]);
  });

  it('stays as it is where the camera’s block is broken', () => {
    const own = block(true, []);
    const broken = block(true, [{ tag: 0x8769, type: 4, value: 60_000 }]);
    expect(withTiffExif(own, broken)).toBe(own);
  });
});

it('keeps the caption record of an APP13 block, and no thumbnail', () => {
  const resource = (id: number, data: Buffer): Buffer => {
    const head = Buffer.from([
      0x38,
      0x42,
      0x49,
      0x4d,
      id >> 8,
      id & 255,
      0,
      0,
      0,
      0,
      0,
      data.length,
    ]);
    return Buffer.concat([head, data, Buffer.alloc(data.length % 2)]);
  };
  const caption = Buffer.from('caption');
  const source = Buffer.concat([
    Buffer.from('Photoshop 3.0\0', 'latin1'),
    resource(0x040c, TINY_JPEG),
    resource(0x0404, caption),
    resource(0x03ed, Buffer.from('print')),
  ]);
  const kept = Buffer.from(iptcOnly(source) ?? []);
  expect(kept.includes(caption)).toBe(true);
  expect(kept.includes(TINY_JPEG)).toBe(false);
  expect(kept.includes(Buffer.from('print'))).toBe(false);
  expect(iptcOnly(Buffer.from('Photoshop 3.0\0', 'latin1'))).toBeNull();
});

it('makes an XMP packet upright and drops its thumbnails', () => {
  const packet =
    '<rdf:Description tiff:Orientation="6"><tiff:Orientation>8</tiff:Orientation>' +
    '<xmp:Thumbnails><rdf:Alt><xapGImg:image>AAAA</xapGImg:image></rdf:Alt></xmp:Thumbnails><dc:title>Ü</dc:title></rdf:Description>';
  expect(xmpForOutput(packet, true)).toBe(
    '<rdf:Description tiff:Orientation="1"><tiff:Orientation>1</tiff:Orientation><dc:title>Ü</dc:title></rdf:Description>',
  );
});

describe('what a file type has room for', () => {
  const none = { exif: null, xmp: null, iptc: null, icc: null, densityPpi: null };

  it('is the density in a PNG, in pixels a metre', () => {
    const head = Buffer.concat([Buffer.alloc(8), Buffer.from([0, 0, 0, 13]), Buffer.alloc(21)]);
    const parts = Buffer.concat(withPngMetadata(head, { ...none, densityPpi: 300 }));
    const at = parts.indexOf('pHYs') + 4;
    expect([parts.readUInt32BE(at), parts.readUInt32BE(at + 4), parts[at + 8]]).toEqual([
      11_811, 11_811, 1,
    ]);
  });

  it('is the density in the JFIF segment of a JPEG, which is added where the encoder left it out', async () => {
    const written = Buffer.concat(withJpegMetadata(TINY_JPEG, { ...none, densityPpi: 300 }));
    expect(written.length).toBe(TINY_JPEG.length + 18);
    expect(written.subarray(20)).toEqual(TINY_JPEG.subarray(2));
    expect(written.subarray(2, 20).toString('latin1')).toContain('JFIF');
    const again = Buffer.concat(withJpegMetadata(written, { ...none, densityPpi: 72 }));
    expect(again.length).toBe(written.length);
    const create = { width: 9, height: 9, channels: 3, background: '#456' } as const;
    const jpeg = await sharp({ create }).jpeg().toBuffer();
    const tagged = Buffer.concat(withJpegMetadata(jpeg, { ...none, densityPpi: 240 }));
    expect(await sharp(tagged).metadata()).toMatchObject({ density: 240, width: 9 });
    expect((await sharp(tagged).raw().toBuffer()).equals(await sharp(jpeg).raw().toBuffer())).toBe(
      true,
    );
  });

  it('is said where a JPEG cannot take all of it', () => {
    expect(leftOutOfJpeg({ ...none, xmp: 'x'.repeat(1_000) })).toBe(null);
    const long = { ...none, xmp: 'ü'.repeat(40_000), iptc: new Uint8Array(70_000) };
    expect(leftOutOfJpeg(long)).toBe(
      'Its XMP and caption (IPTC) is longer than a JPEG takes, and was left out.',
    );
    const written = Buffer.concat(withJpegMetadata(TINY_JPEG, long));
    expect(written.length).toBe(TINY_JPEG.length);
  });
});

describe('the position of a photo', () => {
  /** Latitude out of line, as all makers write it, behind a directory of its own. */
  function withPosition(little: boolean): Buffer {
    const head = block(little, [
      { tag: 0x0112, type: 3, value: 1 },
      { tag: 0x8825, type: 4, value: 0 },
      { tag: 0x9003, type: 3, value: 7 },
    ]);
    const gps = block(little, [{ tag: 0x0002, type: 5, value: 0 }]).subarray(8);
    const out = Buffer.concat([head, gps, Buffer.from('LATITUDE-61-12-0-VALUES!')]);
    const u32 = (value: number, at: number) =>
      little ? out.writeUInt32LE(value, at) : out.writeUInt32BE(value, at);
    u32(head.length, 10 + 12 + 8);
    u32(3, head.length + 2 + 4);
    u32(head.length + gps.length, head.length + 2 + 8);
    return out;
  }

  it.each([true, false])('is gone with its values, and nothing else (little: %s)', (little) => {
    const source = withPosition(little);
    const facts = { width: 8, height: 8 };
    const kept = Buffer.from(exifForOutput(source, { ...facts, hasPosition: true }) ?? []);
    expect(kept.includes('LATITUDE')).toBe(true);
    const out = Buffer.from(exifForOutput(source, { ...facts, hasPosition: false }) ?? []);
    expect(out).toHaveLength(source.length);
    expect(out.includes('LATITUDE')).toBe(false);
    expect(out.includes('VALUES')).toBe(false);
    const u16 = (at: number) => (little ? out.readUInt16LE(at) : out.readUInt16BE(at));
    expect([u16(8), u16(10), u16(22), u16(30)]).toEqual([2, 0x0112, 0x9003, 7]);
  });

  it('is gone from XMP as attribute, element and list, of any maker', () => {
    const packet = `<rdf:Description exif:GPSLatitude="61,12N" dc:format='x' exif:GPSAltitude = '3/1'
      drone:GpsLongitude="5" crs:Version="1">
      <exif:GPSLongitude>5,1E</exif:GPSLongitude><exif:GPSTimeStamp rdf:x="1"/>
      <Iptc4xmpExt:LocationCreated><rdf:Bag><rdf:li><rdf:Description>
      <exif:GPSLatitude>61</exif:GPSLatitude></rdf:Description></rdf:li></rdf:Bag>
      </Iptc4xmpExt:LocationCreated><dc:title>Latitude and calm</dc:title></rdf:Description>`;
    const out = xmpForOutput(packet, false);
    expect(out).not.toMatch(/gps/i);
    expect(out).not.toContain('61');
    for (const kept of ["dc:format='x'", 'crs:Version="1"', 'Latitude and calm']) {
      expect(out).toContain(kept);
    }
    expect(xmpForOutput(packet, true)).toBe(packet);
  });
});
