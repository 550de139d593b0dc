export { adopted } from './adopted.js';
export { readCsv, writeCsv } from './csv.js';
export { readOds } from './ods-read.js';
export { writeOds } from './ods-write.js';
export { bookOf, plainOf, shownIn } from './plain.js';
export type { Look, PlainCell, PlainSheet } from './plain.js';
export { readXlsx } from './xlsx-read.js';
export { writeXlsx } from './xlsx-write.js';
