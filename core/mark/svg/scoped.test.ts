import { describe, expect, it } from 'vitest';
import { isScoped, scopedSvg } from './scoped.ts';

const ROOT = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"';
const SCOPE = 'a0123abcd';

describe('scopedSvg', () => {
  const svg = scopedSvg(
    `${ROOT}><style>.x,#g path{fill:url(#f)}</style><linearGradient id="f"/>` +
      '<g id="g"><path class="x" style="fill:url(\'#f\')" d="M0 0L9 9"/></g><use href="#g"/></svg>',
    SCOPE,
  );

  it('names ids after the artwork, wherever they are meant', () => {
    expect(svg).toContain(`id="${SCOPE}-f"`);
    expect(svg).toContain(`fill:url(#${SCOPE}-f)}`);
    expect(svg).toContain(`style="fill:url(#${SCOPE}-f)"`);
    expect(svg).toContain(`href="#${SCOPE}-g"`);
    expect(svg).not.toMatch(/#[fg]\b/);
  });

  it('keeps styles within the artwork', () => {
    expect(svg).toContain(`.${SCOPE} .x`);
    expect(svg).toContain(`.${SCOPE} #${SCOPE}-g path`);
    expect(isScoped(svg)).toBe(true);
  });
});

describe('isScoped', () => {
  it.each([
    ['no name', `${ROOT}><path d="M0 0"/></svg>`],
    ['a name of a page', `${ROOT} class="modal"><path d="M0 0"/></svg>`],
    ['a style for everything', `${ROOT} class="${SCOPE}"><style>*{fill:red}</style></svg>`],
    [
      'one style of two that reaches out',
      `${ROOT} class="${SCOPE}"><style>.${SCOPE} a,body{fill:red}</style></svg>`,
    ],
    [
      'a name that only begins alike',
      `${ROOT} class="${SCOPE}"><style>.${SCOPE}x{fill:red}</style></svg>`,
    ],
    ['an id of its own', `${ROOT} class="${SCOPE}"><g id="app"/></svg>`],
    ['no SVG', 'words'],
  ])('is not true of artwork with %s', (_, svg) => {
    expect(isScoped(svg)).toBe(false);
  });
});
