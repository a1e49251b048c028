/**
 * What many ask for within a moment is looked at once for all of them. Only what was found to be well is
 * shared: who comes after trouble looks for himself.
 */
export class Briefly<T> {
  private readonly looks = new Map<
    string,
    { readonly untilMs: number; readonly found: Promise<T> }
  >();

  /**
   * @param lastsMs how long a look counts, from its beginning
   * @param isWell whether what was found may be shared
   */
  constructor(
    private readonly lastsMs: number,
    private readonly isWell: (found: T) => boolean,
  ) {}

  of(key: string, look: () => Promise<T>): Promise<T> {
    const nowMs = performance.now();
    const known = this.looks.get(key);
    if (known && nowMs < known.untilMs) return known.found;
    const found = look();
    const mine = { untilMs: nowMs + this.lastsMs, found };
    this.looks.set(key, mine);
    const forget = (): void => {
      if (this.looks.get(key) === mine) this.looks.delete(key);
    };
    found.then((value) => this.isWell(value) || forget(), forget);
    return found;
  }
}
