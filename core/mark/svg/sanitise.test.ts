import { describe, expect, it } from 'vitest';
import { markModelOf } from '../markFile.ts';
import { isScoped, scopedSvg } from './scoped.ts';
import { sanitiseSvg } from './sanitise.ts';

const SVG = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"';

function clean(inside: string, root = `viewBox="0 0 100 50"`) {
  return sanitiseSvg(`<svg ${SVG} ${root}>${inside}</svg>`);
}

function kept(inside: string, root?: string): string {
  const result = clean(inside, root);
  if (!result.ok) throw new Error(result.reason);
  return result.value.svg;
}

function refusal(inside: string): string {
  const result = clean(inside);
  return result.ok ? 'taken' : result.reason;
}

describe('what logos really hold', () => {
  it('keeps classes, styles, gradients, clip paths and use', () => {
    const svg = kept(`
      <style type="text/css"><![CDATA[.st0{fill:url(#g);} /* note */ .st1 > path{opacity:.5}]]></style>
      <defs><linearGradient id="g"><stop offset="0" style="stop-color:#fff"/></linearGradient>
      <clipPath id="c"><rect width="9" height="9"/></clipPath><path id="p" d="M0 0h9"/></defs>
      <g clip-path="url(#c)" class="st0"><use xlink:href="#p" x="3"/></g>`);
    expect(svg).toContain('.st0{fill:url(#g);}');
    expect(svg).toContain('.st1 &gt; path');
    expect(svg).toContain('clip-path="url(#c)"');
    expect(svg).toContain('xlink:href="#p"');
    expect(svg).toContain('stop-color:#fff');
  });

  it('drops a plain DOCTYPE, comments, processing instructions and foreign metadata', () => {
    const result = sanitiseSvg(`<?xml version="1.0" encoding="utf-8"?><!-- made by hand -->
      <!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">
      <svg ${SVG} xmlns:ed="http://example.org/editor" ed:version="3" x="0px" y="0px" width="20mm" height="10mm">
      <ed:guides><ed:guide at="3"/></ed:guides><metadata>who</metadata><path d="M0 0h9"/></svg>`);
    if (!result.ok) throw new Error(result.reason);
    expect(result.value.svg).not.toMatch(/DOCTYPE|guide|metadata|ed:|made by/);
    expect(result.value.dropped).toEqual(['ed:guides', 'metadata']);
    expect(result.value.box.width).toBeCloseTo(75.59, 2);
    expect(result.value.svg).not.toContain('x="0px"');
  });

  it('reads files whose elements carry a prefix', () => {
    const result = sanitiseSvg(
      '<s:svg xmlns:s="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><s:rect width="4" height="4"/></s:svg>',
    );
    expect(result.ok && result.value.svg).toContain('<rect width="4" height="4"/>');
  });

  it('names the fonts of live text', () => {
    const result = clean(
      '<text font-family="\'Great Hand\'">Ines</text><text style="font-family: Sober"><tspan>M</tspan></text>',
    );
    expect(result.ok && result.value.textFonts).toEqual(['Great Hand', 'a font that is not named']);
  });

  it('keeps pictures that are embedded', () => {
    expect(kept('<image href="data:image/png;base64,AAAA" width="1" height="1"/>')).toContain(
      'data:image/png;base64,AAAA',
    );
  });
});

describe('what runs or reaches outside', () => {
  it.each([
    ['<script>alert(1)</script><path d="M0 0"/>', /script|alert/],
    ['<path d="M0 0" onclick="alert(1)"/>', /onclick|alert/],
    ['<foreignObject><p xmlns="http://www.w3.org/1999/xhtml">x</p></foreignObject>', /foreign|<p/],
    ['<a xlink:href="http://example.org/"><path d="M0 0"/></a>', /example/],
    ['<animate attributeName="x"/>', /animate/],
    [
      '<style>@import url(http://example.org/a.css); @font-face{src:url(http://example.org/f)} a{}</style>',
      /example|@/,
    ],
  ])('drops %s', (inside, forbidden) => {
    expect(kept(inside)).not.toMatch(forbidden);
  });

  it.each([
    ['<image href="http://example.org/a.png"/>', 'outside the file'],
    ['<image href="neighbour.png"/>', 'outside the file'],
    ['<image href="data:image/svg+xml;base64,AAAA"/>', 'outside the file'],
    ['<use xlink:href="other.svg#a"/>', 'outside the file'],
    ['<path style="fill:url(http://example.org/#a)"/>', 'outside the file'],
    ['<path fill="url(\'other.svg#a\')"/>', 'outside the file'],
    ['<style>path{fill:url("//example.org/a")}</style>', 'outside the file'],
    ['<path style="fill:u\\72l(x)"/>', 'escaped'],
    ['<path style="filter:blur(900px)"/>', 'filter written as a function'],
    ['<path filter="blur(900px)"/>', 'filter written as a function'],
  ])('refuses %s', (inside, reason) => {
    expect(refusal(inside)).toContain(reason);
  });

  it('refuses entities, and never follows them', () => {
    const result = sanitiseSvg(
      `<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/hostname">]><svg ${SVG}><title>&a;</title></svg>`,
    );
    expect(result.ok ? 'taken' : result.reason).toContain('entities');
  });

  it('says what is wrong with something else', () => {
    expect(sanitiseSvg('<html/>').ok).toBe(false);
    const broken = sanitiseSvg(`<svg ${SVG}><g></svg>`);
    expect(broken.ok ? '' : broken.reason).toContain('not well-formed');
  });
});

describe('limits', () => {
  it('refuses use elements that multiply, nest deeply or go in a circle', () => {
    const bomb = Array.from({ length: 6 }, (_, level) => {
      const use = `<use href="#l${level}"/>`.repeat(10);
      return `<g id="l${level + 1}">${use}</g>`;
    }).join('');
    expect(refusal(`<defs><g id="l0"><path d="M0 0"/></g>${bomb}</defs><use href="#l6"/>`)).toMatch(
      /use elements/,
    );
    const chain = Array.from(
      { length: 9 },
      (_, level) => `<g id="c${level}"><use href="#c${level + 1}"/></g>`,
    ).join('');
    expect(refusal(`<defs>${chain}</defs><use href="#c0"/>`)).toContain('nested');
    expect(refusal('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>')).toContain(
      'circle',
    );
  });

  it('refuses filters that reach too far, are too many or are not numbers', () => {
    expect(refusal('<filter id="f"><feGaussianBlur stdDeviation="11"/></filter>')).toContain(
      'reaches',
    );
    expect(refusal('<filter id="f"><feGaussianBlur stdDeviation="x"/></filter>')).toContain(
      'reaches',
    );
    expect(refusal(`<filter id="f">${'<feOffset dx="1"/>'.repeat(80)}</filter>`)).toContain(
      'more than',
    );
    expect(kept('<filter id="f"><feGaussianBlur stdDeviation="2 1"/></filter>')).toContain('2 1');
  });

  it('refuses more elements than can be drawn in time', () => {
    expect(refusal('<path d="M0 0"/>'.repeat(50_001))).toContain('elements');
  });

  it('refuses elements nested deeper than any drawing is, without reading on', () => {
    expect(refusal('<g>'.repeat(60_000) + '</g>'.repeat(60_000))).toContain('nested more than');
    expect(kept('<g>'.repeat(150) + '<path d="M0 0"/>' + '</g>'.repeat(150))).toContain('<path');
  });

  // Each of these took seconds to minutes when text was read by patterns that look back.
  it.each([
    ['rules that are dropped', `<style>${'@page'.repeat(400_000)}</style>`],
    ['rules that are dropped, with blocks', `<style>${'@page{'.repeat(400_000)}</style>`],
    ['comments that do not end', `<style>${'/*'.repeat(400_000)}</style>`],
    ['addresses that do not end', `<path style="${'url( '.repeat(400_000)}"/>`],
    ['text without a rule', `<style>${'a'.repeat(2_000_000)}</style>`],
    ['metadata that does not end', '<metadata'.repeat(200_000)],
  ])('is done in time with %s', (_, inside) => {
    const startMs = performance.now();
    const text = `<svg ${SVG} viewBox="0 0 9 9">${inside}</svg>`;
    sanitiseSvg(text);
    markModelOf(text);
    isScoped(scopedSvg(text, 'a01234567'));
    expect(performance.now() - startMs).toBeLessThan(MOST_MS);
  });

  it('reads a DOCTYPE of brackets in time', () => {
    const startMs = performance.now();
    sanitiseSvg(`<!DOCTYPE svg ${'['.repeat(100_000)}><svg ${SVG}/>`);
    expect(performance.now() - startMs).toBeLessThan(MOST_MS);
  });
});

/** Linear work takes a tenth of it on a slow machine; what looks back takes many times more. */
const MOST_MS = 4_000;
