import { odp, pptx } from './decks/about.js';
import { about as docx } from './docx/about.js';
import { FormatError } from './format.js';
import type { AboutFormat } from './format.js';
import { about as html } from './html/about.js';
import { about as json } from './json/about.js';
import { about as markdown } from './markdown/about.js';
import { about as odt } from './odt/about.js';
import { csv, ods, xlsx } from './sheets/about.js';
import { about as text } from './text/about.js';

/** Open formats documents can be written to, each those of its kinds. `json` is written only. */
export type Format =
  'markdown' | 'html' | 'text' | 'docx' | 'odt' | 'xlsx' | 'ods' | 'csv' | 'pptx' | 'odp' | 'json';

/** Formats documents can be read from. */
export type ReadFormat = Exclude<Format, 'json'>;

/** What is known of each format without being able to read it, in the order in which they are offered. */
export const FORMATS: Readonly<Record<Format, AboutFormat>> = {
  docx,
  odt,
  xlsx,
  ods,
  csv,
  pptx,
  odp,
  markdown,
  html,
  text,
  json,
};

const READ: readonly ReadFormat[] = [
  'docx',
  'odt',
  'xlsx',
  'ods',
  'csv',
  'pptx',
  'odp',
  'markdown',
  'html',
  'text',
];

/** Endings of the files that can be read, each with its dot. */
export const READ_ENDINGS: readonly string[] = READ.flatMap((format) =>
  FORMATS[format].endings.map((ending) => `.${ending}`),
);

/** The format of a file by the ending of its name. Throws `FormatError` when it is none that can be read. */
export function formatOfFile(name: string): ReadFormat {
  const ending = name.split('.').at(-1)?.toLowerCase() ?? '';
  const format = READ.find((one) => FORMATS[one].endings.includes(ending));
  if (format) return format;
  throw new FormatError(
    `Only files that end in ${READ.map((one) => `.${FORMATS[one].endings[0]}`).join(', ')} can be read.`,
  );
}
