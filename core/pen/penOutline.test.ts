import { describe, expect, it } from 'vitest';
import { penDrawingSchema, penSettingsSchema, type PenStroke } from '../contract/pen.ts';
import { penSvg, ringPath, strokeRing } from './penOutline.ts';

const pen = penSettingsSchema.parse({});

function stroke(pressure: (share: number) => number, hasPressure = true): PenStroke {
  const points: number[] = [];
  for (let step = 0; step <= 40; step++) points.push(50 + step * 5, 100, pressure(step / 40));
  return { points, pressure: hasPressure };
}

function heightAt(ring: readonly (readonly [number, number])[], x: number): number {
  const near = ring.filter(([at]) => Math.abs(at - x) < 8).map(([, y]) => y);
  return Math.max(...near) - Math.min(...near);
}

describe('strokeRing', () => {
  it('is wider where the pen was pressed', () => {
    const ring = strokeRing(
      stroke((share) => 0.1 + 0.8 * share),
      pen,
    );
    expect(heightAt(ring, 210)).toBeGreaterThan(heightAt(ring, 90) * 1.3);
  });

  it('is even where pressure is not to count', () => {
    const ring = strokeRing(
      stroke((share) => 0.1 + 0.8 * share),
      { ...pen, contrast: 0 },
    );
    expect(Math.abs(heightAt(ring, 210) - heightAt(ring, 90))).toBeLessThan(0.5);
  });

  it('takes its weight from the pen, also afterwards', () => {
    const thin = heightAt(
      strokeRing(
        stroke(() => 0.5),
        { ...pen, weight: 4 },
      ),
      150,
    );
    const thick = heightAt(
      strokeRing(
        stroke(() => 0.5),
        { ...pen, weight: 20 },
      ),
      150,
    );
    expect(thick / thin).toBeCloseTo(5, 0);
  });
});

describe('penSvg', () => {
  it('is cut to the strokes and closes every outline', () => {
    const drawing = penDrawingSchema.parse({ strokes: [stroke(() => 0.5), stroke(() => 0.9)] });
    const svg = penSvg(drawing);
    expect(svg.ok).toBe(true);
    if (!svg.ok) return;
    const [, width, height] = /viewBox="0 0 (\d+) (\d+)"/.exec(svg.value) ?? [];
    expect(Number(width)).toBeGreaterThan(195);
    expect(Number(width)).toBeLessThan(225);
    expect(Number(height)).toBeLessThan(20);
    expect(svg.value.match(/Z/g)).toHaveLength(2);
  });

  it('says when there is nothing to draw', () => {
    expect(penSvg({ strokes: [], pen })).toMatchObject({ ok: false });
  });
});

it('draws a dot as an outline of its own', () => {
  const dot = strokeRing({ points: [10, 10, 0.5], pressure: false }, pen);
  expect(ringPath(dot)).toMatch(/^M.*Z$/);
});
