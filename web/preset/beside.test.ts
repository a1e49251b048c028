import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it } from 'vitest';
import type { MarkView, PresetView } from '#core/contract/http';
import { presetRuleSchema } from '#core/contract/preset';
import { useLibrary } from '../app/library.ts';
import { eventually } from '../../tests/helpers/eventually.ts';
import { useDraft } from './draft.ts';

/** Marks that lie over each other on a bench: one in hand, the others beside it. */

const mark = (id: number): MarkView => ({
  ...{ id, name: `M${id}`, version: 1, kind: 'svg', tokens: [], notes: [], retired: false },
  ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, bleed: { x: 0, y: 0 }, usedBy: [] },
  ...{ origin: 'file', scanId: null, box: null, isPending: false },
});
const preset = (id: number, rule: object): PresetView => ({
  ...{ id, name: `P${id}`, markId: id, updatedAt: '', usedBy: [] },
  ...{ favourite: false, uses: 0, usedAt: null, version: 1 },
  rule: presetRuleSchema.parse(rule),
});

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  const library = useLibrary();
  library.marks = [mark(1), mark(2), mark(3)];
  library.presets = [
    preset(1, { opacity: 0.1 }),
    preset(2, { opacity: 0.2 }),
    preset(3, { opacity: 0.3 }),
  ];
  useDraft().open(1, { id: 9, placing: null, beside: { at: 0, marks: [] } });
});

const names = (): (string | undefined)[] =>
  useDraft()
    .subjectsOf(null)
    .map(({ mark: laid }) => laid?.name);

it('lie in the order in which they were laid, whichever is in hand', () => {
  const draft = useDraft();
  expect(names()).toEqual(['M1']);
  draft.addMark(2);
  draft.addMark(3);
  draft.addMark(2);
  expect(names()).toEqual(['M1', 'M2', 'M3']);
  draft.takeInHand(0);
  expect(draft.presetId).toBe(2);
  expect(draft.rule.opacity).toBe(0.2);
  expect(names()).toEqual(['M1', 'M2', 'M3']);
  draft.takeInHand(1);
  expect(draft.presetId).toBe(3);
  expect(names()).toEqual(['M1', 'M2', 'M3']);
  draft.removeMark(0);
  expect(names()).toEqual(['M2', 'M3']);
});

it('keep what was changed of one while another is in hand, as the batch keeps it', () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.change({ opacity: 0.9 });
  draft.takeInHand(0);
  expect(draft.others[0].rule.opacity).toBe(0.9);
  expect(draft.beside.marks[0]).toMatchObject({ presetId: 1, placing: { rule: { opacity: 0.9 } } });
  draft.takeInHand(0);
  expect([draft.presetId, draft.rule.opacity, draft.isDirty]).toEqual([1, 0.9, true]);
});

it('are adjusted apart on a photo', () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.adjust([7], { rotation: 5 });
  draft.takeInHand(0);
  draft.adjust([7], { rotation: 9, leftOut: true });
  expect(draft.adjustments.get(7)).toEqual({
    ...{ rotation: 5, leftOut: true, over: { 2: { rotation: 9 } } },
  });
  expect(draft.subjectsOf(7).map(({ adjustment }) => adjustment.rotation)).toEqual([5, 9]);
  draft.takeBack([7], 'angle');
  expect(draft.adjustments.get(7)).toEqual({ rotation: 5, leftOut: true });
});

it('of which the first is taken off leave the second what it has of its own', () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.adjust([7], { rotation: 5 });
  draft.takeInHand(0);
  draft.adjust([7], { rotation: 9 });
  draft.removeMark(0);
  expect(draft.adjustments.get(7)).toEqual({ rotation: 9 });
  expect(draft.subjectsOf(7).map(({ adjustment }) => adjustment.rotation)).toEqual([9]);
});

it('do not go along to another batch, and come back with their own', () => {
  const draft = useDraft();
  draft.addMark(2);
  const kept = draft.beside;
  draft.open(1, { id: 10, placing: null, beside: { at: 0, marks: [] } });
  expect(names()).toEqual(['M1']);
  draft.open(1, { id: 9, placing: null, beside: kept });
  expect(names()).toEqual(['M1', 'M2']);
});

it('lose one whose preset is gone', () => {
  const draft = useDraft();
  draft.addMark(2);
  useLibrary().presets = useLibrary().presets.filter(({ id }) => id !== 2);
  expect(names()).toEqual(['M1']);
  expect(draft.beside.marks).toEqual([]);
});

it('are taken off and into the hand once, though a click comes twice', () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.removeMark(0);
  draft.removeMark(0);
  draft.takeInHand(0);
  expect([draft.presetId, names()]).toEqual([1, ['M1']]);
});

it('are laid lower and higher, and what photos have of each stays with it', () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.addMark(3);
  draft.adjust([7], { rotation: 5, leftOut: true });
  draft.moveHand(-1);
  expect(names()).toEqual(['M1', 'M2', 'M3']);
  draft.moveHand(1);
  expect(names()).toEqual(['M2', 'M1', 'M3']);
  expect(draft.presetId).toBe(1);
  expect(draft.adjustments.get(7)).toEqual({ leftOut: true, over: { 1: { rotation: 5 } } });
  expect(draft.rule.opacity).toBe(0.1);
  draft.moveHand(1);
  draft.moveHand(1);
  expect(names()).toEqual(['M2', 'M3', 'M1']);
  draft.moveHand(-1);
  draft.moveHand(-1);
  expect(names()).toEqual(['M1', 'M2', 'M3']);
  expect(draft.adjustments.get(7)).toEqual({ leftOut: true, rotation: 5 });
});

it('come back, with what photos had of them, when taking off is undone', async () => {
  const draft = useDraft();
  draft.addMark(2);
  draft.adjust([7], { rotation: 5 });
  draft.takeInHand(0);
  draft.adjust([7], { rotation: 9 });
  const before = draft.adjustments.get(7);
  // A step of its own.
  await eventually(() => expect(draft.canUndo).toBe(true));
  draft.removeMark(0);
  expect([names(), draft.adjustments.get(7)]).toEqual([['M2'], { rotation: 9 }]);
  draft.undo();
  expect([names(), draft.adjustments.get(7)]).toEqual([['M1', 'M2'], before]);
  draft.redo();
  expect([names(), draft.beside.marks]).toEqual([['M2'], []]);
});
