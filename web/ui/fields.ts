/** What `FieldRows` makes controls of: a table of fields, each a line. */
interface FieldOf<Kind extends string> {
  readonly kind: Kind;
  /** Of the values the field shows and sets. */
  readonly key: string;
  /** What stands beside or above the control. */
  readonly word: string;
  /** What it is called where it is not seen beside its word; the word, if left out. */
  readonly label?: string;
}

export interface NumberSpec {
  readonly unit?: string;
  /** Ends of the slider. */
  readonly from: number;
  readonly to: number;
  /** Ends of the number, where it goes further. */
  readonly min?: number;
  readonly max?: number;
  readonly step?: number;
  readonly decimals?: number;
  readonly ticks?: readonly number[];
  /** What is shown for a stored 1: 100 for a share shown as percent. */
  readonly times?: number;
}

export interface ChoiceOption {
  readonly value: string;
  readonly label: string;
  readonly title?: string;
}

export type FieldSpec =
  | (FieldOf<'range'> & NumberSpec)
  /** A number without a slider, from `from` to `to`. */
  | (FieldOf<'number'> & NumberSpec)
  | (FieldOf<'choice'> & { readonly options: readonly ChoiceOption[] })
  | FieldOf<'toggle'>
  /** What the slot of its name holds. */
  | FieldOf<'own'>;

/** A share of 0 to 1, shown as percent. */
export function shareField(
  key: string,
  word: string,
  part: Partial<NumberSpec> & { readonly label?: string } = {},
): FieldSpec {
  return { kind: 'range', key, word, unit: '%', from: 0, to: 100, times: 100, ...part };
}
