import type { AboutFormat } from '../format.js';

export const pptx: AboutFormat = {
  endings: ['pptx'],
  type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  name: 'Office Open XML presentation (.pptx)',
  kinds: ['deck'],
};

export const odp: AboutFormat = {
  endings: ['odp'],
  type: 'application/vnd.oasis.opendocument.presentation',
  name: 'OpenDocument presentation (.odp)',
  kinds: ['deck'],
};
