/** Open formats a text document can be read from and written to. `json` is written only. */
export type Format = 'markdown' | 'html' | 'text' | 'json';

/** A file that cannot be read, said so that its sender can act on it. */
export class FormatError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'FormatError';
  }
}

const ENDINGS: Record<string, Exclude<Format, 'json'>> = {
  md: 'markdown',
  markdown: 'markdown',
  html: 'html',
  htm: 'html',
  txt: 'text',
  text: 'text',
};

/** The format of a file by the ending of its name, or null when it is none that can be read. */
export function formatOfFile(name: string): Exclude<Format, 'json'> | null {
  return ENDINGS[name.split('.').at(-1)?.toLowerCase() ?? ''] ?? null;
}

/** How images cross the border of a file. */
export interface Images {
  /** The address to write for a stored image. */
  address(hash: string): string;
  /** The stored image that an address in a file stands for, or null: then its alternative text is kept. */
  stored(address: string, hash: string | null): string | null;
}

/** Images neither written with an address nor read. */
export const NO_IMAGES: Images = { address: (hash) => `image:${hash}`, stored: () => null };
