/** What is known of the formats without any of their readers and writers, for a screen that only names them. */
export { FormatError } from '../format.js';
export { pageRule } from '../html/page.js';
export { FORMATS, READ_ENDINGS, formatOfFile } from '../names.js';
export type { Format, ReadFormat } from '../names.js';
