import type { AboutFormat } from '../format.js';

export const about: AboutFormat = {
  endings: ['odt'],
  type: 'application/vnd.oasis.opendocument.text',
  name: 'OpenDocument (.odt)',
  kinds: ['text'],
};
