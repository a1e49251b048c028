import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { metadataSchema } from '#core/contract/delivery';
import { outputBlocks, type SourceMetadata } from './blocks.ts';
import { withExifRights } from './exifRights.ts';
import { captionBlock, captionRecords } from './imageResources.ts';
import { withIptcRights } from './iptcRights.ts';
import { withJpegMetadata } from './jpegSegments.ts';
import { rightsOfPhoto, type Rights } from './rights.ts';
import { withTiffExif } from './tiffDirectory.ts';
import { withXmpRights } from './xmpRights.ts';

const RIGHTS: Rights = {
  artist: 'Ínes Marlow & Søn',
  copyright: '© 2026 Quillon Bay <pictures>',
  usage: 'Once, in the booklet. "No" other use.',
  rightsUrl: 'https://quillon-bay.example/terms?a=1&b=2',
};
const FRAME = { width: 30, height: 20 };

let folder: string;
beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'light-crest-rights-'))));
afterAll(() => rmSync(folder, { recursive: true }));

function plain(): Promise<Buffer> {
  const create = { ...FRAME, channels: 3, background: '#789' } as const;
  return sharp({ create }).jpeg().toBuffer();
}

async function written(
  name: string,
  source: SourceMetadata,
  rule: object,
  own: Rights | null = null,
) {
  const blocks = await outputBlocks(source, metadataSchema.parse(rule), { frame: FRAME, own });
  const path = join(folder, `${name}.jpg`);
  writeFileSync(path, Buffer.concat(withJpegMetadata(await plain(), blocks)));
  return path;
}

const rightsOf = async (path: string) => rightsOfPhoto(path, await sharp(path).metadata());

const GIVEN = {
  artist: RIGHTS.artist,
  copyright: RIGHTS.copyright,
  usage: RIGHTS.usage,
  rights_url: RIGHTS.rightsUrl,
};

/** The three places apart, as an independent reader finds them. */
async function said(path: string) {
  const options = { mergeOutput: false, xmp: { parse: true }, iptc: true, ifd0: {} };
  const found = await exifr.parse(path, { ...options, reviveValues: false });
  return {
    exif: [found.ifd0?.Artist, found.ifd0?.Copyright],
    iptc: [found.iptc?.Byline, found.iptc?.CopyrightNotice],
    xmp: [found.dc?.creator, found.dc?.rights?.value ?? found.dc?.rights],
  };
}

describe('rights that are given', () => {
  it.each(['all', 'copyright', 'none'])(
    'are in EXIF, IPTC and XMP alike (keep %s)',
    async (keep) => {
      const path = await written(`given ${keep}`, {}, { keep, ...GIVEN });
      expect(await rightsOf(path)).toEqual(RIGHTS);
      const utf8 = (text?: string) => Buffer.from(text ?? '', 'latin1').toString('utf8');
      const xml = (text?: string) => text?.replace(/&amp;/g, '&').replace(/&lt;/g, '<');
      const { exif, iptc, xmp } = await said(path);
      const both = [RIGHTS.artist, RIGHTS.copyright];
      expect(exif).toEqual(both);
      expect(iptc.map(utf8)).toEqual(both);
      expect(xmp.map(xml).map((text) => text?.replace(/&gt;/g, '>'))).toEqual(both);
      await sharp(path).stats();
    },
  );

  it('stand in for what the photo says, and leave the rest of it', async () => {
    const source = await sharp(await plain())
      .withExif({ IFD0: { Artist: 'Another', Make: 'Halden Optics', Copyright: 'Another’s' } })
      .jpeg()
      .toBuffer();
    const { exif } = await sharp(source).metadata();
    const xmp = Buffer.from(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">' +
        '<rdf:Description rdf:about="" xmlns:d="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmp:Rating="4">' +
        '<d:creator><rdf:Seq><rdf:li>Another</rdf:li></rdf:Seq></d:creator><d:title><rdf:Alt><rdf:li xml:lang="x-default">Kept</rdf:li></rdf:Alt></d:title>' +
        '</rdf:Description></rdf:RDF></x:xmpmeta>',
    );
    const path = await written('instead', { exif, xmp }, { keep: 'all', ...GIVEN });
    expect(await rightsOf(path)).toEqual(RIGHTS);
    const found = await exifr.parse(path, { mergeOutput: false, xmp: { parse: true }, ifd0: {} });
    expect(found.ifd0.Make).toBe('Halden Optics');
    expect(found.xmp.Rating).toBe(4);
    expect(found.d.title.value).toBe('Kept');
    expect(JSON.stringify(found)).not.toContain('Another');
  });

  it('are those of the photo where only those are kept, and nothing else of it', async () => {
    const { exif } = await sharp(
      await sharp(await plain())
        .withExif({ IFD0: { Artist: 'Ines Marlow', Make: 'Halden Optics' } })
        .jpeg()
        .toBuffer(),
    ).metadata();
    const own = { artist: 'Ines Marlow', copyright: null, usage: null, rightsUrl: null };
    const rule = { keep: 'copyright', copyright: '© 2026' };
    const path = await written('only', { exif }, rule, own);
    expect(await rightsOf(path)).toMatchObject({ artist: 'Ines Marlow', copyright: '© 2026' });
    const found = await exifr.parse(path, { mergeOutput: false, ifd0: {} });
    expect(found.ifd0).not.toHaveProperty('Make');
  });

  it.each(['jpeg', 'webp', 'png', 'avif'] as const)('are read out of %s', async (type) => {
    const path = join(folder, `read.${type}`);
    const tags = { IFD0: { Artist: 'Ines Marlow', Copyright: '2026 Quillon Bay' } };
    await sharp(await plain())
      .withExif(tags)
      .toFormat(type)
      .toFile(path);
    expect(await rightsOf(path)).toMatchObject({
      ...{ artist: 'Ines Marlow', copyright: '2026 Quillon Bay' },
    });
  });

  it('are read out of TIFF, which has them outside of a block', async () => {
    const path = join(folder, 'read.tif');
    const block = withExifRights(null, RIGHTS) ?? new Uint8Array();
    writeFileSync(
      path,
      withTiffExif(
        await sharp(await plain())
          .tiff()
          .toBuffer(),
        block,
      ),
    );
    const { artist, copyright } = RIGHTS;
    expect(await rightsOf(path)).toMatchObject({ artist, copyright });
  });

  it('are nothing where nothing is given', async () => {
    const rule = metadataSchema.parse({ keep: 'none' });
    const blocks = await outputBlocks({}, rule, { frame: FRAME });
    expect([blocks.exif, blocks.xmp, blocks.iptc]).toEqual([null, null, null]);
  });
});

describe('EXIF', () => {
  it.each(['II', 'MM'])('moves nothing that is there (%s)', (order) => {
    const little = order === 'II';
    const block = Buffer.alloc(8 + 2 + 12 + 4 + 20, 7);
    block.write(order, 'latin1');
    const u16 = (value: number, at: number) =>
      little ? block.writeUInt16LE(value, at) : block.writeUInt16BE(value, at);
    const u32 = (value: number, at: number) =>
      little ? block.writeUInt32LE(value, at) : block.writeUInt32BE(value, at);
    u16(42, 2);
    u32(8, 4);
    u16(1, 8);
    u16(0x0112, 10);
    u16(3, 12);
    u32(1, 14);
    u16(1, 18);
    u32(0, 22);
    const out = Buffer.from(withExifRights(block, RIGHTS) ?? []);
    expect(out.subarray(8, block.length).equals(block.subarray(8))).toBe(true);
    const first = little ? out.readUInt32LE(4) : out.readUInt32BE(4);
    expect(first).toBeGreaterThanOrEqual(block.length);
    expect(little ? out.readUInt16LE(first) : out.readUInt16BE(first)).toBe(3);
  });

  it('that cannot be followed is made anew', () => {
    const broken = Buffer.from('II*\0\xf0\xff\0\0', 'latin1');
    expect(Buffer.from(withExifRights(broken, RIGHTS) ?? []).includes('Quillon Bay')).toBe(true);
  });
});

describe('IPTC', () => {
  it('brings what was Latin over to UTF-8, and keeps what it does not say', () => {
    const caption = (text: string) =>
      Buffer.concat([Buffer.from([0x1c, 2, 120, 0, text.length]), Buffer.from(text, 'latin1')]);
    const out = withIptcRights(captionBlock(caption('Küste')), RIGHTS);
    const records = captionRecords(out ?? new Uint8Array());
    expect(records.includes(Buffer.from('Küste', 'utf8'))).toBe(true);
    expect(records.subarray(0, 8)).toEqual(Buffer.from([0x1c, 1, 90, 0, 3, 0x1b, 0x25, 0x47]));
    // A second time nothing is brought over twice.
    expect(withIptcRights(out, RIGHTS)).toEqual(out);
  });
});

describe('XMP', () => {
  it('is the same where it is written twice', () => {
    const once = withXmpRights(null, RIGHTS);
    const twice = withXmpRights(once, RIGHTS) ?? '';
    expect(twice.match(/UsageTerms>/g)).toHaveLength(2);
  });

  it('that is no packet is made anew', () => {
    expect(withXmpRights('nonsense', RIGHTS)).toContain('xmpRights:WebStatement');
  });
});
