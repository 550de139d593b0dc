import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['json'],
  type: 'application/json; charset=utf-8',
  name: 'JSON (.json)',
  kinds: ['text', 'sheet', 'deck'],
};
