import { textOfFile, utf8 } from '../bytes.js';
import { EmbeddedImages, withoutImages } from '../embedded.js';
import type { FileFormat } from '../format.js';
import { plainReading } from '../reading.js';
import { readHtml, writeHtml } from './html.js';
import { comparisonPage, escaped } from './redline.js';

/** A page for reading and printing; the changes of a comparison are marked, not tracked. */
export const html: FileFormat = {
  read: (bytes) => {
    const images = new EmbeddedImages();
    const doc = readHtml(textOfFile(bytes, withoutImages), images);
    return plainReading(doc, images.pictures, images.tally.list());
  },
  write: (doc, { title, picture }) => utf8(page(title, writeHtml(doc, new EmbeddedImages(picture)))),
  redline: (comparison, _hands, { title, ends, who, picture }) =>
    utf8(
      comparisonPage(comparison, {
        title,
        earlier: ends[0],
        later: ends[1],
        who,
        images: new EmbeddedImages(picture),
      }),
    ),
};

function page(title: string, body: string): string {
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>${escaped(title)}</title></head>\n<body>\n${body}\n</body>\n</html>\n`;
}
