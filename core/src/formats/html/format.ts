import type { Node } from 'prosemirror-model';
import { paperOf } from '../../kinds/text/index.js';
import { kindOf } from '../../kinds/index.js';
import { SLIDE_RULES, writeSlides } from '../decks/page.js';
import { writeTables } from '../sheets/page.js';
import { textOfFile, utf8 } from '../bytes.js';
import { EmbeddedImages, withoutImages } from '../embedded.js';
import type { FileFormat, Images } from '../format.js';
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
    const [body, rules] = bodyOf(doc, new EmbeddedImages(picture));
    return utf8(
      style === undefined ? page(title, body, rules) : readingPage(title, doc, body, `${style}${rules}`),
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

/** What of a document stands on a page, and the rules of style that it needs beside. */
function bodyOf(doc: Node, images: Images): [html: string, rules: string] {
  switch (kindOf(doc).name) {
    case 'text':
      return [writeHtml(doc, images), pageRule(paperOf(doc))];
    case 'sheet':
      return [writeTables(doc), ''];
    case 'deck':
      return [writeSlides(doc, images), SLIDE_RULES];
  }
}

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
