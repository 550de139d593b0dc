import type { AboutFormat } from '../format.js';

export const xlsx: AboutFormat = {
  endings: ['xlsx'],
  type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  name: 'Office Open XML workbook (.xlsx)',
  kinds: ['sheet'],
};

export const ods: AboutFormat = {
  endings: ['ods'],
  type: 'application/vnd.oasis.opendocument.spreadsheet',
  name: 'OpenDocument spreadsheet (.ods)',
  kinds: ['sheet'],
};

export const csv: AboutFormat = {
  endings: ['csv', 'tsv'],
  type: 'text/csv; charset=utf-8; header=absent',
  name: 'Comma-separated values (.csv)',
  kinds: ['sheet'],
  valuesOnly: true,
};
