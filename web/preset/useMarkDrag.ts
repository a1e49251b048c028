import { ref, type Ref } from 'vue';
import type { PresetRule } from '#core/contract/preset';
import { centreOf, type Point, type Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { ruleFromPosition } from '#core/placement/ruleFromPosition';
import { dragPointer } from '../ui/dragPointer.ts';

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
    // Of a repeated mark the anchored copy is moved; the others follow it.
    const held = placeMark(source.frame(), source.aspect(), { ...source.rule(), repeat: null });
    if (!held.ok) return;
    const { box } = held.value.copies[0];
    const from = centreOf(box);
    const scale = source.framePxPerPx();
    const move = ({ clientX, clientY }: PointerEvent): void => {
      const centre: Point = {
        x: from.x + (clientX - event.clientX) * scale,
        y: from.y + (clientY - event.clientY) * scale,
      };
      source.change(ruleFromPosition(source.frame(), box, centre, source.rule().inset.unit));
    };
    isDragging.value = dragPointer(event, move, () => (isDragging.value = false));
    if (isDragging.value) event.stopPropagation();
  }

  return { isDragging, start };
}
