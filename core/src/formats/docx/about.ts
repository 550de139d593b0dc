import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['docx'],
  type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  name: 'Office Open XML (.docx)',
  kinds: ['text'],
};
