import type { FileFormat } from '../format.js';
import { readOdt } from './read.js';
import { writeOdt, writeOdtRedline } from './write.js';

export const odt: FileFormat = { read: readOdt, write: writeOdt, redline: writeOdtRedline };
