import { textOfFile, utf8 } from '../bytes.js';
import type { FileFormat } from '../format.js';
import { plainReading } from '../reading.js';
import { readCsv, writeCsv } from './csv.js';
import { readOds } from './ods-read.js';
import { writeOds } from './ods-write.js';
import { readXlsx } from './xlsx-read.js';
import { writeXlsx } from './xlsx-write.js';

export const xlsx: FileFormat = { read: readXlsx, write: writeXlsx };
export const ods: FileFormat = { read: readOds, write: writeOds };
/** The first sheet as it is shown; what is read becomes a book of one sheet. */
export const csv: FileFormat = {
  read: (bytes) => plainReading(readCsv(textOfFile(bytes))),
  write: (book) => utf8(writeCsv(book)),
};
