import { lightMap, type LightMap } from '#core/readability/lightMap';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { sharpOf } from '../sharp.ts';
import { profileName } from '../metadata/profileName.ts';
import { decodePhoto } from './decode.ts';
import { photoFacts, probePhoto, type ProbedPhoto } from './probe.ts';

/** Working size of previews and of the readability measure, px on the long side. */
export const PROXY_LONG_SIDE_PX = 1_200;

/** A tile of the wall fits into this, px: sharp on a wall of 200 px rows at twice the density. */
const TILE_WITHIN: Size = { width: 900, height: 400 };

const PROXY_QUALITY = 86;
const TILE_QUALITY = 80;

/** Everything the page needs of a photo. */
export interface PreparedPhoto {
  readonly probed: ProbedPhoto;
  readonly facts: Awaited<ReturnType<typeof photoFacts>>;
  readonly proxySize: Size;
  readonly proxy: Buffer;
  readonly tile: Buffer;
  readonly light: LightMap;
  readonly profile: string | null;
}

/** Reads a photo once and makes its proxy, tile and light map. */
export async function preparePhoto(path: string): Promise<Result<PreparedPhoto>> {
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const proxySize = within(probed.value.size, PROXY_LONG_SIDE_PX, PROXY_LONG_SIDE_PX);
  const decoded = await decodePhoto(path, probed.value, { frame: proxySize, flatten: true });
  if (!decoded.ok) return decoded;
  const pixels = decoded.value;
  const tileSize = within(proxySize, TILE_WITHIN.width, TILE_WITHIN.height);
  const [proxy, tile, facts] = await Promise.all([
    sharpOf(pixels).jpeg({ quality: PROXY_QUALITY }).toBuffer(),
    sharpOf(pixels)
      .resize(tileSize.width, tileSize.height, { fit: 'fill' })
      .jpeg({ quality: TILE_QUALITY })
      .toBuffer(),
    photoFacts(path, probed.value),
  ]);
  return success({
    probed: probed.value,
    facts,
    proxySize,
    proxy,
    tile,
    light: lightMap(decoded.value),
    profile: profileName(probed.value.icc),
  });
}

function within(size: Size, width: number, height: number): Size {
  const scale = Math.min(1, width / size.width, height / size.height);
  return {
    width: Math.max(1, Math.round(size.width * scale)),
    height: Math.max(1, Math.round(size.height * scale)),
  };
}
