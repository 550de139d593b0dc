/** Open formats a text document can be written to. `json` is written only. */
export type Format = 'markdown' | 'html' | 'text' | 'docx' | 'odt' | 'json';

/** Formats a text document can be read from. */
export type ReadFormat = Exclude<Format, 'json'>;

/** Endings of file names, the first of which is written, media types, and what people call each format. */
export const FORMATS: Readonly<
  Record<
    Format,
    { readonly endings: readonly [string, ...string[]]; readonly type: string; readonly name: string }
  >
> = {
  docx: {
    endings: ['docx'],
    type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    name: 'Office Open XML (.docx)',
  },
  odt: { endings: ['odt'], type: 'application/vnd.oasis.opendocument.text', name: 'OpenDocument (.odt)' },
  markdown: { endings: ['md', 'markdown'], type: 'text/markdown; charset=utf-8', name: 'Markdown (.md)' },
  html: { endings: ['html', 'htm'], type: 'text/html; charset=utf-8', name: 'HTML (.html)' },
  text: { endings: ['txt', 'text'], type: 'text/plain; charset=utf-8', name: 'Plain text (.txt)' },
  json: { endings: ['json'], type: 'application/json; charset=utf-8', name: 'JSON (.json)' },
};

const READ: readonly ReadFormat[] = ['docx', 'odt', 'markdown', 'html', 'text'];

/** Endings of the files that can be read, each with its dot. */
export const READ_ENDINGS: readonly string[] = READ.flatMap((format) =>
  FORMATS[format].endings.map((ending) => `.${ending}`),
);

/** A file that cannot be read, said so that its sender can act on it. */
export class FormatError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'FormatError';
  }
}

/** The format of a file by the ending of its name. Throws `FormatError` when it is none that can be read. */
export function formatOfFile(name: string): ReadFormat {
  const ending = name.split('.').at(-1)?.toLowerCase() ?? '';
  const format = READ.find((one) => FORMATS[one].endings.includes(ending));
  if (format) return format;
  throw new FormatError(
    `Only files that end in ${READ.map((one) => `.${FORMATS[one].endings[0]}`).join(', ')} can be read.`,
  );
}

/** How images cross the border of a text file. */
export interface Images {
  /** The address to write for a stored image. */
  address(hash: string): string;
  /** The stored image that an address in a file stands for, or null: then its alternative text is kept. */
  stored(address: string, hash: string | null): string | null;
}

/** Images neither written with an address nor read. */
export const NO_IMAGES: Images = { address: (hash) => `image:${hash}`, stored: () => null };
