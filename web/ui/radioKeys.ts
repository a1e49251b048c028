import type { Directive } from 'vue';

/**
 * The keys of a row or grid of radios made of buttons (WAI-ARIA Authoring Practices, radio group): one
 * tab stop for all, arrows choose the next.
 *
 * `v-radio-keys="3"` names the columns of a grid, in which up and down go by rows.
 */
export const vRadioKeys: Directive<HTMLElement, number | undefined> = {
  mounted(group, { value: columns }) {
    giveOneTabStop(group);
    group.addEventListener('keydown', (event) => choose(event, group, columns ?? 1));
  },
  updated: giveOneTabStop,
};

function radiosOf(group: HTMLElement): HTMLElement[] {
  return [...group.querySelectorAll<HTMLElement>('[role="radio"]:not(:disabled)')];
}

/** Of the one that is chosen; of the first, where none is. */
function giveOneTabStop(group: HTMLElement): void {
  const radios = radiosOf(group);
  const chosen = radios.find((radio) => radio.getAttribute('aria-checked') === 'true') ?? radios[0];
  for (const radio of radios) radio.tabIndex = radio === chosen ? 0 : -1;
}

function choose(event: KeyboardEvent, group: HTMLElement, columns: number): void {
  const steps: Readonly<Record<string, number>> = {
    ArrowLeft: -1,
    ArrowRight: 1,
    ArrowUp: -columns,
    ArrowDown: columns,
  };
  const step = steps[event.key];
  const radios = radiosOf(group);
  const at = radios.indexOf(event.target as HTMLElement);
  if (step === undefined || at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
  // Arrows mean something else to the bench around it.
  event.preventDefault();
  event.stopPropagation();
  const to = at + step;
  const isGrid = columns > 1;
  const next = isGrid ? radios[to] : radios[(to + radios.length) % radios.length];
  next?.focus();
  next?.click();
}
