/** How large a photo is looked at. */
export const ZOOMS = [
  { value: 'whole', label: 'whole', title: 'The whole photo (z)' },
  { value: '1', label: '100 %', title: 'One pixel of the output is one of the screen (z)' },
  { value: '2', label: '200 %', title: 'Twice that (z)' },
] as const;
export type Zoom = (typeof ZOOMS)[number]['value'];
