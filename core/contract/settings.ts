import { z } from 'zod';

/** What a photographer sets once for everything. */

/** Light as paper, dim for dark rooms, or whichever the system is set to. */
export const THEMES = ['system', 'light', 'dim'] as const;
export const SURROUNDS = ['paper', 'grey', 'black'] as const;

export const MAX_PALETTE = 24;
const MAX_FOLDERS = 50;
const MAX_TEXT = 200;

/** What single keys do, and the key that is usual for it. */
export const USUAL_KEYS = Object.freeze({
  tone: 't',
  opacity: 'o',
  larger: '+',
  smaller: '-',
  previous: ',',
  next: '.',
  'hide-mark': 'b',
  'leave-out': 'x',
  zoom: 'z',
  wipe: 'w',
  export: 'g',
  help: '?',
});
export type KeyAction = keyof typeof USUAL_KEYS;
export const KEY_ACTIONS = Object.keys(USUAL_KEYS) as [KeyAction, ...KeyAction[]];

/** One letter or sign; digits put the mark where they lie on a number pad. */
const keySchema = z.string().regex(/^[^\d\s]$/u, 'a letter or a sign');

export const settingsSchema = z.strictObject({
  /** The photographer's name, for lettering and metadata. */
  name: z.string().trim().max(MAX_TEXT).default(''),
  copyright: z.string().trim().max(MAX_TEXT).default(''),
  /** Colours of the photographer's own, offered as tones. */
  palette: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(MAX_TEXT),
        colour: z.string().regex(/^#[0-9a-fA-F]{6}$/),
      }),
    )
    .max(MAX_PALETTE)
    .default([]),
  /** Folders of the computer that may be read and written, as absolute paths. */
  folders: z.array(z.string().min(1)).max(MAX_FOLDERS).default([]),
  /** What photos are judged against. */
  surround: z.enum(SURROUNDS).default('grey'),
  theme: z.enum(THEMES).default('system'),
  /** Whether each output is opened again and compared with what was to be written. */
  readsBack: z.boolean().default(true),
  /** Whether single keys do something; whoever speaks to the computer switches them off. */
  singleKeys: z.boolean().default(true),
  /** Other keys than the usual ones. */
  keys: z.partialRecord(z.enum(KEY_ACTIONS), keySchema).default({}),
});

/** As they are sent: with the version they were changed from; left out, they replace what is there. */
export const settingsBody = settingsSchema.extend({
  version: z.number().int().min(0).optional(),
});

export type Settings = z.infer<typeof settingsSchema>;
export type Surround = (typeof SURROUNDS)[number];
