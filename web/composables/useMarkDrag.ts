import { ref, type Ref } from 'vue';
import type { PresetRule } from '#core/contract/preset';
import { centreOf, type Point, type Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { ruleFromPosition } from '#core/placement/ruleFromPosition';

interface DragSource {
  readonly frame: () => Size;
  readonly aspect: () => number;
  readonly rule: () => PresetRule;
  /** Output pixels a CSS pixel. */
  readonly framePxPerPx: () => number;
  readonly change: (part: Partial<PresetRule>) => void;
}

/** Moves the mark with the pointer: where it is let go becomes the rule's anchor, inset, offset. */
export function useMarkDrag(source: DragSource): {
  isDragging: Ref<boolean>;
  start: (event: PointerEvent) => void;
} {
  const isDragging = ref(false);

  function start(event: PointerEvent): void {
    if (event.button !== 0) return;
    const rule = source.rule();
    // Of a repeated mark the anchored copy is moved; the others follow it.
    const held = placeMark(source.frame(), source.aspect(), { ...rule, repeat: null });
    if (!held.ok) return;
    event.preventDefault();
    event.stopPropagation();
    const { box } = held.value.copies[0];
    const from = centreOf(box);
    const scale = source.framePxPerPx();
    const target = event.currentTarget as HTMLElement;
    target.setPointerCapture(event.pointerId);
    isDragging.value = true;

    const move = (moved: PointerEvent): void => {
      const centre: Point = {
        x: from.x + (moved.clientX - event.clientX) * scale,
        y: from.y + (moved.clientY - event.clientY) * scale,
      };
      source.change(ruleFromPosition(source.frame(), box, centre, source.rule().inset.unit));
    };
    const end = (): void => {
      isDragging.value = false;
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', end);
      target.removeEventListener('pointercancel', end);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end);
    target.addEventListener('pointercancel', end);
  }

  return { isDragging, start };
}
