/** Every shortcut, as it is listed; the listeners stand beside what they do. */
export const SHORTCUTS: readonly { readonly keys: readonly string[]; readonly does: string }[] = [
  { keys: ['1', '…', '9'], does: 'put the mark where the key lies on a number pad' },
  { keys: ['←', '↑', '↓', '→'], does: 'nudge the mark; with Shift ten times as far' },
  { keys: ['+', '-'], does: 'larger, smaller' },
  { keys: ['t'], does: 'next tone' },
  { keys: ['o'], does: 'opacity, one step down' },
  { keys: [',', '.'], does: 'photo before, photo after' },
  { keys: ['Space'], does: 'select the photo, or take it out of the selection' },
  { keys: ['Ctrl', 'A'], does: 'select all photos' },
  { keys: ['Enter'], does: 'closer look at the photo' },
  { keys: ['b'], does: 'hold to see the photo without the mark' },
  { keys: ['Esc'], does: 'leave the closer look, select nothing' },
  { keys: ['Ctrl', 'Z'], does: 'undo; with Shift redo' },
  { keys: ['g'], does: 'go to export' },
  { keys: ['?'], does: 'this list' },
];
