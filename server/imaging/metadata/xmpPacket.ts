/** Changes to an XMP packet, as text: the few properties that describe pixels, not the photo. */

const THUMBNAILS = /<xmp:Thumbnails\b[\s\S]*?<\/xmp:Thumbnails>|<xmp:Thumbnails\b[^>]*\/>/g;
const ORIENTATION = /(tiff:Orientation(?:="|>))\s*\d+/g;

/** The packet for an output whose pixels are upright and carry the mark. */
export function xmpForOutput(packet: string): string {
  return packet.replace(THUMBNAILS, '').replace(ORIENTATION, '$11');
}
