/**
 * Follows a pointer from where it went down until it is let go.
 *
 * @param moved called for each move
 * @param ended called once, however the drag ends
 * @returns false where the press is no drag: another button than the first
 */
export function dragPointer(
  event: PointerEvent,
  moved: (now: PointerEvent) => void,
  ended: () => void = () => undefined,
): boolean {
  if (event.button !== 0) return false;
  event.preventDefault();
  const target = event.currentTarget as HTMLElement;
  target.setPointerCapture(event.pointerId);
  const end = (): void => {
    target.removeEventListener('pointermove', moved);
    target.removeEventListener('pointerup', end);
    target.removeEventListener('pointercancel', end);
    ended();
  };
  target.addEventListener('pointermove', moved);
  target.addEventListener('pointerup', end);
  target.addEventListener('pointercancel', end);
  return true;
}
