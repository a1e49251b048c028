import { mount } from '@vue/test-utils';
import { describe, expect, it, vi } from 'vitest';
import { HISTOGRAM_BINS } from '#core/ink/levels';
import CropFrame from './CropFrame.vue';
import DragHandle from '../ui/DragHandle.vue';
import HandBrush from './HandBrush.vue';
import LevelChart from './LevelChart.vue';

vi.mock('vue-chartjs', () => ({ Bar: { template: '<i />' } }));

const SHOWN = { width: 400, height: 200 };

describe('DragHandle', () => {
  it('moves by arrow keys, ten times as far with Shift', async () => {
    const handle = mount(DragHandle, { props: { label: 'Left edge' } });
    await handle.trigger('keydown', { key: 'ArrowLeft' });
    await handle.trigger('keydown', { key: 'ArrowDown', shiftKey: true });
    await handle.trigger('keydown', { key: 'a' });
    expect(handle.emitted('move')).toEqual([
      [-1, 0],
      [0, 10],
    ]);
  });
});

describe('CropFrame', () => {
  const crop = { x: 0.25, y: 0.25, width: 0.5, height: 0.5 };
  const moved = async (label: string, dx: number, dy: number) => {
    const frame = mount(CropFrame, { props: { crop, shown: SHOWN, isMovable: true } });
    const handle = frame
      .findAllComponents(DragHandle)
      .find((some) => some.props('label') === label);
    await handle?.vm.$emit('move', dx, dy);
    return frame.emitted('change')?.[0]?.[0];
  };

  it('takes along the sides of a handle only', async () => {
    expect(await moved('Left edge', 40, 99)).toEqual({ ...crop, x: 0.35, width: 0.4 });
    expect(await moved('Bottom right corner', 40, 20)).toEqual({
      ...crop,
      width: 0.6,
      height: 0.6,
    });
  });

  it('stays on the sheet and never closes', async () => {
    expect(await moved('Top edge', 0, -900)).toEqual({ ...crop, y: 0, height: 0.75 });
    const thin = (await moved('Left edge', 900, 0)) as typeof crop;
    expect(thin.width).toBeCloseTo(0.01, 9);
    expect(thin.x + thin.width).toBeCloseTo(0.75, 9);
  });

  it('has no handles where another tool is in hand', () => {
    const frame = mount(CropFrame, { props: { crop, shown: SHOWN, isMovable: false } });
    expect(frame.findAllComponents(DragHandle)).toHaveLength(0);
  });
});

describe('HandBrush', () => {
  it('works once by the space bar where the arrows have brought it', async () => {
    const brush = mount(HandBrush, { props: { does: 'rub', shown: SHOWN } });
    await brush.trigger('keydown', { key: 'ArrowRight' });
    await brush.trigger('keydown', { key: 'ArrowUp', shiftKey: true });
    await brush.trigger('keydown', { key: ' ' });
    expect(brush.emitted('stroke')).toEqual([[[206, 70], 12]]);
  });

  it('gives a stroke of the pointer whole, without points that say nothing', async () => {
    const brush = mount(HandBrush, { props: { does: 'keep', shown: SHOWN } });
    brush.element.setPointerCapture = () => undefined;
    await brush.trigger('pointerdown', { clientX: 10, clientY: 10 });
    await brush.trigger('pointermove', { clientX: 11, clientY: 10 });
    await brush.trigger('pointermove', { clientX: 20, clientY: 10 });
    await brush.trigger('pointerup', { clientX: 20, clientY: 10 });
    expect(brush.emitted('stroke')).toEqual([[[10, 10, 20, 10], 12]]);
  });
});

describe('LevelChart', () => {
  const open = () =>
    mount(LevelChart, {
      props: {
        histogram: new Uint32Array(HISTOGRAM_BINS).fill(9),
        levels: { ink: 0.1, paper: 0.98 },
      },
    });

  it('moves a level by keys and keeps the two apart', async () => {
    const chart = open();
    await chart.get('[aria-label="Ink level"]').trigger('keydown', { key: 'ArrowUp' });
    expect(chart.emitted('change')?.[0]).toEqual([{ ink: expect.closeTo(0.105, 6) }]);
    await chart.setProps({ levels: { ink: 0.95, paper: 0.98 } });
    await chart.get('[aria-label="Paper level"]').trigger('keydown', { key: 'ArrowDown' });
    expect(chart.emitted('change')?.[1]).toEqual([{ paper: 1 }]);
  });

  it('tells where they are', () => {
    const handle = open().get('[aria-label="Paper level"]');
    expect(handle.attributes('aria-valuetext')).toBe('98 %');
    expect(handle.attributes('role')).toBe('slider');
  });
});
