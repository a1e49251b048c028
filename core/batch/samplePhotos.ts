/** What a sample goes by. */
export interface Sampled {
  readonly width: number;
  readonly height: number;
  /** Mean L*, 0 to 100. */
  readonly lightness: number;
}

/**
 * Photos as different as a batch has them: the widest, the tallest, the darkest, the brightest and
 * the squarest; then the darkest and the brightest that lie like most photos do, wider than tall and
 * no panorama. In this order, each once.
 */
export function samplePhotos<Photo extends Sampled>(all: readonly Photo[]): Photo[] {
  if (all.length <= WISHES.length) return [...all];
  const chosen = new Set<Photo>();
  for (const wish of WISHES) {
    const free = all.filter((photo) => !chosen.has(photo));
    chosen.add(foremost(free, wish));
  }
  const lying = all.filter(isLying);
  if (lying.length > 0) for (const wish of [darkest, brightest]) chosen.add(foremost(lying, wish));
  return [...chosen];
}

type Wish = (photo: Sampled) => number;

const aspect: Wish = ({ width, height }) => width / height;
const darkest: Wish = ({ lightness }) => -lightness;
const brightest: Wish = ({ lightness }) => lightness;
const WISHES: readonly Wish[] = [
  aspect,
  (photo) => -aspect(photo),
  darkest,
  brightest,
  (photo) => -Math.abs(Math.log(aspect(photo))),
];

/** Twice as wide as tall is a panorama. */
const isLying: (photo: Sampled) => boolean = (photo) => aspect(photo) > 1 && aspect(photo) < 2;

function foremost<Photo extends Sampled>(some: readonly Photo[], wish: Wish): Photo {
  return some.reduce((best, photo) => (wish(photo) > wish(best) ? photo : best));
}

/** The brightest and the darkest of some photos, of those that lie where any does; null for none. */
export function brightAndDark<Photo extends Sampled>(
  photos: readonly Photo[],
): { readonly bright: Photo; readonly dark: Photo } | null {
  if (photos.length === 0) return null;
  const lying = photos.filter(isLying);
  const some = lying.length > 0 ? lying : photos;
  return { bright: foremost(some, brightest), dark: foremost(some, darkest) };
}
