import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import type { MarkView, PresetView } from '#core/contract/http';
import { presetRuleSchema } from '#core/contract/preset';
import { useDraft } from './draft.ts';
import { useLibrary } from '../app/library.ts';

const ink = { x: 0, y: 0, width: 300, height: 100 };
const mark = (id: number, name: string): MarkView => ({
  ...{ id, name, version: 1, kind: 'svg', ink, bleed: { x: 0, y: 0 }, tokens: [] },
  ...{
    notes: [],
    retired: false,
    usedBy: [],
    origin: 'file',
    scanId: null,
    box: null,
    isPending: false,
  },
});
const preset = (id: number, markId: number, rule: object): PresetView => ({
  ...{ id, name: `P${id}`, markId, updatedAt: '', usedBy: [] },
  ...{ favourite: false, uses: 0, usedAt: null, version: 1 },
  rule: presetRuleSchema.parse(rule),
});

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  const library = useLibrary();
  library.marks = [mark(1, 'Signature'), mark(2, 'Crest')];
  library.presets = [
    preset(1, 1, { opacity: 0.5, fallbacks: ['top'] }),
    preset(2, 2, { opacity: 0.9, anchor: 'left' }),
  ];
  useDraft().open(1);
});

describe('adjustments', () => {
  it('change the photos the bench is set on, and nothing else', () => {
    const draft = useDraft();
    draft.target = [7, 8];
    draft.change({ opacity: 0.2, fallbacks: ['left'] });
    expect([...draft.adjustments.keys()]).toEqual([7, 8]);
    expect(draft.adjustments.get(7)).toEqual({ opacity: 0.2 });
    expect([draft.rule.opacity, draft.baseRule.opacity]).toEqual([0.2, 0.5]);
    expect(draft.isDirty).toBe(false);
    draft.target = null;
    draft.change({ rotation: 9, opacity: 1 });
    expect(draft.rule.opacity).toBe(1);
    draft.target = [8];
    expect([draft.rule.opacity, draft.rule.rotation]).toEqual([0.2, 9]);
  });

  it('are taken back part by part, and leave nothing behind', () => {
    const draft = useDraft();
    draft.adjust([7], { opacity: 0.2, rotation: 5 });
    draft.takeBack([7], 'angle');
    expect(draft.adjustments.get(7)).toEqual({ opacity: 0.2 });
    draft.takeBack([7], 'opacity');
    expect(draft.adjustments.has(7)).toBe(false);
    draft.adjust([7, 8], { leftOut: true });
    draft.takeBack([8]);
    expect([...draft.adjustments.keys()]).toEqual([7]);
  });

  it('by hand on a photo reach those it belongs to', () => {
    const draft = useDraft();
    const low = { anchor: 'bottom' } as const;
    draft.changeOn(7, low);
    expect(draft.baseRule.anchor).toBe('bottom');
    draft.adjust([7], { anchor: 'top' });
    draft.changeOn(7, { anchor: 'right' });
    // Its place was its own already, so the rule stays.
    expect([draft.baseRule.anchor, draft.adjustments.get(7)?.anchor]).toEqual(['bottom', 'right']);
    draft.target = [8, 9];
    draft.changeOn(8, { rotation: 4 });
    expect([8, 9].map((id) => draft.adjustments.get(id)?.rotation)).toEqual([4, 4]);
    draft.changeOn(5, { rotation: 6 });
    expect([5, 8].map((id) => draft.adjustments.get(id)?.rotation)).toEqual([6, 4]);
    expect(draft.baseRule.rotation).toBe(0);
  });

  it('are copied to others in place of their own', () => {
    const draft = useDraft();
    draft.adjust([7], { opacity: 0.2 });
    draft.adjust([8], { rotation: 5 });
    draft.copyAdjustment(7, [7, 8, 9]);
    expect([7, 8, 9].map((id) => draft.adjustments.get(id))).toEqual(
      Array(3).fill({ opacity: 0.2 }),
    );
    draft.copyAdjustment(1, [8]);
    expect(draft.adjustments.has(8)).toBe(false);
  });

  it('give a photo another preset with its mark; one that is gone counts for nothing', () => {
    const draft = useDraft();
    draft.adjust([7], { presetId: 2, rotation: 3 });
    const subject = draft.subjectOf(7);
    expect([subject.mark?.name, subject.rule.anchor]).toEqual(['Crest', 'left']);
    draft.adjust([8], { presetId: 99 });
    expect(draft.subjectOf(8).mark?.name).toBe('Signature');
    // The bench's own preset as it is there, with what is not saved.
    draft.adjust([9], { presetId: 1 });
    draft.change({ opacity: 0.7 });
    expect(draft.subjectOf(9).rule.opacity).toBe(0.7);
  });

  it('and the rule share one way back', () => {
    const draft = useDraft();
    draft.takeAdjustments(new Map([[7, { opacity: 0.3 }]]));
    expect(draft.canUndo).toBe(false);
    draft.takeBack([7]);
    draft.undo();
    expect(draft.adjustments.get(7)).toEqual({ opacity: 0.3 });
  });
});

describe('names', () => {
  it('say what a preset is, with the palette’s own words for colours', () => {
    const draft = useDraft();
    const library = useLibrary();
    library.settings = {
      ...library.settings,
      palette: [{ name: 'Brass', colour: '#c9a25b' }],
    };
    draft.change({ tone: { rule: 'auto', among: ['light', '#c9a25b'] } });
    expect(draft.suggestedName).toBe('Signature, low right, light or Brass, 14 % of the long side');
  });
});

it('knows what is changed, puts it back, and keeps it while another preset is looked at', () => {
  const draft = useDraft();
  expect(draft.isDirty).toBe(false);
  draft.change({ opacity: 0.6 });
  expect(draft.isDirty).toBe(true);
  draft.open(2);
  expect([draft.isDirty, draft.rule.opacity]).toEqual([false, 0.9]);
  draft.open(1);
  expect([draft.isDirty, draft.rule.opacity]).toEqual([true, 0.6]);
  draft.putBack();
  expect([draft.isDirty, draft.rule.opacity]).toEqual([false, 0.5]);
});
