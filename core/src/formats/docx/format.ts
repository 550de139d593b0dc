import type { FileFormat } from '../format.js';
import { readDocx } from './read.js';
import { writeDocx, writeDocxRedline } from './write.js';

export const docx: FileFormat = { read: readDocx, write: writeDocx, redline: writeDocxRedline };
