import { textOfFile, utf8 } from '../bytes.js';
import { EmbeddedImages, withoutImages } from '../embedded.js';
import type { FileFormat } from '../format.js';
import { plainReading } from '../reading.js';
import { readMarkdown, writeMarkdown } from './markdown.js';

export const markdown: FileFormat = {
  read: (bytes) => {
    const images = new EmbeddedImages();
    const doc = readMarkdown(textOfFile(bytes, withoutImages), images);
    return plainReading(doc, images.pictures, images.tally.list());
  },
  write: (doc, { picture }) => utf8(writeMarkdown(doc, new EmbeddedImages(picture))),
};
