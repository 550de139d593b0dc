import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['html', 'htm'],
  type: 'text/html; charset=utf-8',
  name: 'HTML (.html)',
  kinds: ['text', 'sheet', 'deck'],
};
