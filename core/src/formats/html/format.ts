import type { Node } from 'prosemirror-model';
import { paperOf } from '../../kinds/text/index.js';
import { kindOf } from '../../kinds/index.js';
import { writeTables } from '../sheets/page.js';
import { textOfFile, utf8 } from '../bytes.js';
import { EmbeddedImages, withoutImages } from '../embedded.js';
import type { FileFormat } from '../format.js';
import { plainReading } from '../reading.js';
import { readHtml, writeHtml } from './html.js';
import { pageRule } from './page.js';
import { comparisonPage, escaped } from './redline.js';

/** A page for reading and printing; the changes of a comparison are marked, not tracked. */
export const html: FileFormat = {
  read: (bytes) => {
    const images = new EmbeddedImages();
    const doc = readHtml(textOfFile(bytes, withoutImages), images);
    return plainReading(doc, images.pictures, images.tally.list());
  },
  write: (doc, { title, picture, style }) => {
    const isText = kindOf(doc).name === 'text';
    const body = isText ? writeHtml(doc, new EmbeddedImages(picture)) : writeTables(doc);
    const printing = isText ? pageRule(paperOf(doc)) : '';
    return utf8(
      style === undefined
        ? page(title, body, printing)
        : readingPage(title, doc, body, `${style}${printing}`),
    );
  },
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

function page(title: string, body: string, style: string): string {
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>${escaped(title)}</title><style>${style}</style></head>\n<body>\n${body}\n</body>\n</html>\n`;
}

/** A page to be read where it lies, with a look of its own; its title stands over it unless the document has one. */
function readingPage(title: string, doc: Node, body: string, style: string): string {
  let isTitled = false;
  doc.descendants(({ type, attrs }) => {
    isTitled ||= type.name === 'heading' && attrs['level'] === 1;
    return !isTitled;
  });
  const header = isTitled ? '' : `<h1>${escaped(title)}</h1>\n`;
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title><style>${style}</style></head>\n<body>\n<main>\n${header}${body}\n</main>\n</body>\n</html>\n`;
}
