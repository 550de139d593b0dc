import { textOfFile, utf8 } from '../bytes.js';
import type { FileFormat } from '../format.js';
import { plainReading } from '../reading.js';
import { readText, writeText } from './text.js';

export const text: FileFormat = {
  read: (bytes) => plainReading(readText(textOfFile(bytes))),
  write: (doc) => utf8(writeText(doc)),
};
