import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['txt', 'text'],
  type: 'text/plain; charset=utf-8',
  name: 'Plain text (.txt)',
  kinds: ['text', 'sheet', 'deck'],
};
