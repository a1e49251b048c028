/** Presets by name, the lowest first. @param ids null: whatever is on the bench */
export function presetsText(
  ids: readonly (number | null)[],
  library: { readonly presetOf: (id: number | null) => { readonly name: string } | null },
): string {
  const names = ids.map((id) => library.presetOf(id)?.name).filter(Boolean);
  return names.length > 0 ? names.join(' + ') : 'any preset';
}
