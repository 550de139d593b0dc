export { readPptx } from './pptx-read.js';
export { writePptx } from './pptx-write.js';
