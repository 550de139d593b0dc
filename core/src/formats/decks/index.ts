export { readOdp } from './odp-read.js';
export { writeOdp } from './odp-write.js';
export { readPptx } from './pptx-read.js';
export { writePptx } from './pptx-write.js';
