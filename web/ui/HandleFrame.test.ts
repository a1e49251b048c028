import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { CORNERS } from '#core/design/gesture';
import HandleFrame from './HandleFrame.vue';

const place = { centre: { x: 100, y: 60 }, width: 80, height: 40, rotation: 0, label: 'the mark' };

function shown(part: object = {}) {
  return mount(HandleFrame, { props: { ...place, grips: CORNERS, ...part } });
}

describe('handles round something', () => {
  it('are one stop of the tab key for its size and one for its angle', () => {
    const stops = shown()
      .findAll('button')
      .filter((handle) => handle.attributes('tabindex') !== '-1');
    expect(stops.map((handle) => handle.attributes('aria-label'))).toEqual([
      'Size of the mark; arrow keys change it',
      'Angle of the mark; arrow keys turn it',
    ]);
  });

  it('tell arrow keys as steps, and leave other keys alone', async () => {
    const frame = shown();
    const [size] = frame.findAll('[data-grip="-1,-1"]');
    for (const key of ['ArrowUp', 'ArrowRight', 'ArrowDown', 'ArrowLeft', 'a']) {
      await size.trigger('keydown', { key });
    }
    const factors = frame.emitted('sizeByKey')?.map(([factor]) => Number(factor) > 1);
    expect(factors).toEqual([true, true, false, false]);

    const turn = frame.get('[data-grip=turn]');
    await turn.trigger('keydown', { key: 'ArrowRight' });
    await turn.trigger('keydown', { key: 'ArrowUp', shiftKey: true });
    expect(frame.emitted('turnByKey')).toEqual([[1], [-15]]);
  });

  it('point the way they pull, as the frame is turned', () => {
    const cursor = (rotation: number): string =>
      (shown({ rotation }).get('[data-grip="-1,-1"]').element as HTMLElement).style.cursor;
    expect([0, 45, 90].map(cursor)).toEqual(['nwse-resize', 'ns-resize', 'nesw-resize']);
  });
});
