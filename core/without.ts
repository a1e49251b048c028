/** An object without some of its keys. */
export function without<T extends object, Key extends keyof T>(
  from: T,
  ...keys: readonly Key[]
): Omit<T, Key> {
  const left = { ...from };
  for (const key of keys) delete left[key];
  return left;
}
