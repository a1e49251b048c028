import { ref, shallowRef } from 'vue';

/**
 * Questions that need an answer before something goes on. They are asked one after the other in the one
 * dialog for it (`AskHost`), whoever asks; closing it without an answer is `null`.
 */
export interface Answer {
  readonly label: string;
  readonly kind: 'main' | 'other' | 'danger';
}

export interface Question {
  readonly title: string;
  readonly text?: string;
  /** Said more quietly below. */
  readonly detail?: string;
  /** Asks for a line of text, too; answers other than closing need some. */
  readonly field?: {
    readonly label: string;
    readonly value: string;
    readonly maxLength?: number;
    /** Names that others have: it is said, and may be so. */
    readonly taken?: readonly string[];
  };
  /** The last is the one that Enter gives. */
  readonly answers: readonly Answer[];
  /** Has to be answered: neither Escape nor a click beside it closes it. */
  readonly mustAnswer?: boolean;
}

export interface Given {
  /** Which of the answers. */
  readonly index: number;
  /** What stands in the field, trimmed. */
  readonly text: string;
}

interface Asked {
  readonly question: Question;
  readonly give: (given: Given | null) => void;
  /** Where the focus goes back to. */
  readonly from: HTMLElement | null;
}

const waiting: Asked[] = [];
/** The question that is shown. */
export const asked = shallowRef<Asked | null>(null);
export const typed = ref('');

function showNext(): void {
  asked.value = waiting[0] ?? null;
  typed.value = asked.value?.question.field?.value ?? '';
}

/** An entry of a menu is gone when the dialog closes; the button that opened the menu is not. */
function whoAsks(): HTMLElement | null {
  const active = document.activeElement;
  if (!(active instanceof HTMLElement) || active === document.body) return null;
  const menu = active.closest('.dropdown-menu');
  const opener = menu?.parentElement?.querySelector<HTMLElement>('[aria-haspopup]');
  return opener ?? active;
}

export function ask(question: Question): Promise<Given | null> {
  return new Promise((done) => {
    const entry: Asked = {
      question,
      from: whoAsks(),
      give: (given) => {
        const at = waiting.indexOf(entry);
        // A second click answers nothing that comes after.
        if (at < 0) return;
        waiting.splice(at, 1);
        showNext();
        done(given);
      },
    };
    waiting.push(entry);
    if (waiting.length === 1) showNext();
  });
}

interface NameQuestion {
  readonly title: string;
  readonly label?: string;
  readonly name: string;
  readonly action: string;
  /** Names that others have. */
  readonly taken?: readonly string[];
}

/** Names of all others. */
export function namesBeside(
  all: readonly { readonly id: number; readonly name: string }[],
  id: number | null,
): string[] {
  return all.filter((other) => other.id !== id).map(({ name }) => name);
}

export const NAME_LIMIT = 120;

/** @returns the name, or null */
export async function askName(question: NameQuestion): Promise<string | null> {
  const { title, label = 'Name', name, action, taken = [] } = question;
  const given = await ask({
    title,
    field: { label, value: name, maxLength: NAME_LIMIT, taken },
    answers: [{ label: action, kind: 'main' }],
  });
  return given && given.text;
}

/** Before something that cannot be undone. */
export async function askSure(title: string, text: string, action: string): Promise<boolean> {
  return (await ask({ title, text, answers: [{ label: action, kind: 'danger' }] })) !== null;
}

/** Where a name is taken: whether what has it is updated, or the new one stands beside it. */
export async function askNameTaken(
  what: string,
  name: string,
  freeName: string,
): Promise<'update' | 'both' | null> {
  const given = await ask({
    title: 'That name is taken',
    text:
      `There is a ${what} named ${name}. Replace what it holds, or keep both? ` +
      `Kept beside it, the new one is named ${freeName}.`,
    answers: [
      { label: 'Keep both', kind: 'other' },
      { label: 'Replace what it holds', kind: 'main' },
    ],
  });
  return given && (given.index === 0 ? 'both' : 'update');
}
