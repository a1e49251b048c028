/** Where a key was pressed: shortcuts leave fields and dialogs alone. */

export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  if (target instanceof HTMLSelectElement) return true;
  return target instanceof HTMLInputElement && !['checkbox', 'radio'].includes(target.type);
}

export function isModal(): boolean {
  return document.querySelector('.modal.show') !== null;
}
