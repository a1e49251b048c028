import type { Raster } from '#core/pixels';
import { keptFile } from '../../storage/keptFile.ts';
import { sharp, sharpOf } from '../sharp.ts';

/** A colour profile (ICC.1) as a file, since the imaging library takes it only from there. */
export interface Profile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** Rasters in other colours, for as long as the rasters themselves are kept. */
const known = new WeakMap<Raster, Map<string, Promise<Raster>>>();

/** A mark in the numbers of a colour profile: the same colours to the eye. @param profile null: sRGB */
export function inProfile(raster: Raster, profile: Profile | null): Promise<Raster> {
  if (!profile) return Promise.resolve(raster);
  const ofRaster = known.get(raster) ?? new Map<string, Promise<Raster>>();
  known.set(raster, ofRaster);
  const converted = ofRaster.get(profile.path) ?? convert(raster, profile);
  ofRaster.set(profile.path, converted);
  return converted;
}

async function convert(raster: Raster, { path }: Profile): Promise<Raster> {
  const converted = await sharpOf(raster).withIccProfile(path, { attach: false }).raw().toBuffer();
  const { buffer, byteOffset, byteLength } = converted;
  const pixels = new Uint8ClampedArray(buffer, byteOffset, byteLength);
  return { ...raster, data: pixels };
}

/** @returns null where nothing can be converted by it: it is damaged, or not one of red, green and blue */
export async function usableProfile(bytes: Uint8Array): Promise<Profile | null> {
  try {
    const profile = { bytes, path: await keptFile(bytes, 'icc') };
    const black = { width: 1, height: 1, channels: 3 as const, background: '#000' };
    const tried = sharp({ create: black }).withIccProfile(profile.path, { attach: false });
    const { info } = await tried.raw().toBuffer({ resolveWithObject: true });
    return info.channels === 3 ? profile : null;
  } catch {
    return null;
  }
}
