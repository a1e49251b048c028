/** Changes to an XMP packet, as text: the few properties that describe pixels, not the photo. */

const THUMBNAILS = /<xmp:Thumbnails\b[\s\S]*?<\/xmp:Thumbnails>|<xmp:Thumbnails\b[^>]*\/>/g;
const ORIENTATION = /(tiff:Orientation(?:="|>))\s*\d+/g;

/**
 * Properties that say where a photo was taken, in whatever namespace (`exif:GPSLatitude`, those of
 * makers): as attributes, and as elements with all they hold.
 */
const PLACE_NAME = String.raw`[\w.-]+:[\w.-]*(?:GPS|Latitude|Longitude)[\w.-]*`;
const PLACE_ATTRIBUTES = new RegExp(String.raw`\s+${PLACE_NAME}\s*=\s*("[^"]*"|'[^']*')`, 'gi');
const PLACE_ELEMENTS = new RegExp(
  String.raw`<(${PLACE_NAME})(?:\s[^>]*)?(?:/>|>[\s\S]*?</\1\s*>)`,
  'gi',
);

/**
 * The packet for an output that carries the mark.
 *
 * @param hasPosition whether it may say where the photo was taken
 * @param isStored its pixels are turned as they were; else they are upright
 */
export function xmpForOutput(packet: string, hasPosition: boolean, isStored = false): string {
  const bare = packet.replace(THUMBNAILS, '');
  const own = isStored ? bare : bare.replace(ORIENTATION, '$11');
  return hasPosition ? own : own.replace(PLACE_ATTRIBUTES, '').replace(PLACE_ELEMENTS, '');
}
