import type { FileFormat } from '../format.js';
import { readOdp } from './odp-read.js';
import { writeOdp } from './odp-write.js';
import { readPptx } from './pptx-read.js';
import { writePptx } from './pptx-write.js';

export const pptx: FileFormat = { read: readPptx, write: writePptx };
export const odp: FileFormat = { read: readOdp, write: writeOdp };
