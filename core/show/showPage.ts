import type { PresetRule } from '../contract/preset.ts';
import type { ShowRule } from '../contract/show.ts';

/** A photo of a show. */
export interface ShownPhoto {
  /** Below the page. */
  readonly file: string;
  readonly name: string;
  readonly caption: string;
}

export interface ShowContent {
  readonly rule: ShowRule;
  /** Of the window. */
  readonly name: string;
  readonly photos: readonly ShownPhoto[];
  /** The mark as a picture below the page; null: there is none. */
  readonly mark: string | null;
  /** Where it stands still on the screen; null: it is on the photos. */
  readonly corner: Pick<PresetRule, 'anchor' | 'size' | 'inset' | 'opacity'> | null;
}

/** The page of a show: its words and order; how it plays is in the files beside it. */
export function showPage({ rule, name, photos, mark, corner }: ShowContent): string {
  const { seconds, change, loop, title } = rule;
  const told = JSON.stringify({ seconds, change, loop, title, titleMark: mark, photos });
  const still =
    corner && mark
      ? `<img id="mark" src="${escaped(mark)}" alt="" style="${cornerStyle(corner)}">`
      : '';
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(name)}</title>
<link rel="stylesheet" href="show.css">
</head>
<body class="${change}">
<main>
<div id="stage" role="group" aria-roledescription="show" aria-label="${escaped(name)}"></div>
</main>
${still}
<nav aria-label="Show">
<button id="before" type="button">Before</button>
<button id="play" type="button">Pause</button>
<button id="after" type="button">After</button>
<button id="fill" type="button">Full screen</button>
</nav>
<p id="said" role="status"></p>
<script id="show" type="application/json">${told.replaceAll('<', '\\u003c')}</script>
<script src="player.js"></script>
</body>
</html>
`;
}

const PERCENT = 100;
const MOST_PERCENT = 60;

/** The preset's place, size and strength, on the screen in place of the photo. */
function cornerStyle({ anchor, size, inset, opacity }: NonNullable<ShowContent['corner']>): string {
  const unit = { width: 'vw', height: 'vh', 'short-side': 'vmin' }[size.basis as string] ?? 'vmax';
  const percent = size.basis === 'pixels' ? null : Math.min(size.value, MOST_PERCENT);
  const width = percent === null ? `${size.value}px` : `${percent}${unit}`;
  const edge = (value: number) => (inset.unit === 'pixels' ? `${value}px` : `${value}vmin`);
  const strength = typeof opacity === 'number' ? opacity : opacity.most;
  const styles = [
    `width:${width}`,
    `opacity:${strength}`,
    ...along(anchor, ['left', 'right'], edge(inset.x)),
    ...along(anchor, ['top', 'bottom'], edge(inset.y)),
  ];
  const shiftX = /left|right/.test(anchor) ? 0 : -PERCENT / 2;
  const shiftY = /top|bottom/.test(anchor) ? 0 : -PERCENT / 2;
  if (shiftX || shiftY) styles.push(`transform:translate(${shiftX}%,${shiftY}%)`);
  return styles.join(';');
}

function along(anchor: string, [first, last]: readonly [string, string], edge: string): string[] {
  if (anchor.includes(first)) return [`${first}:${edge}`];
  if (anchor.includes(last)) return [`${last}:${edge}`];
  return [`${first}:50%`];
}

function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}
