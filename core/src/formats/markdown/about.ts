import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['md', 'markdown'],
  type: 'text/markdown; charset=utf-8',
  name: 'Markdown (.md)',
  kinds: ['text'],
};
