/** Variants of one thing that are kept, such as the steps of a control that is dragged. */
const KEPT_VARIANTS = 12;

/**
 * What was made for an object, by a key; it goes with the object, and the oldest variant goes when
 * there are many.
 */
export function kept<T>(
  store: WeakMap<object, Map<string, T>>,
  content: object,
  key: string,
  make: () => T,
): T {
  let variants = store.get(content);
  if (!variants) store.set(content, (variants = new Map()));
  let value = variants.get(key);
  if (value === undefined) {
    value = make();
    const oldest = variants.keys().next().value;
    if (variants.size >= KEPT_VARIANTS && oldest !== undefined) variants.delete(oldest);
    variants.set(key, value);
  }
  return value;
}
