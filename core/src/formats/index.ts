export { faultsOf, imagesIn, readArchive, writeArchive } from './archive/archive.js';
export type { About as ArchiveAboutLike, Archive, ReadArchive } from './archive/archive.js';
export { chainOf, digestOf, sealedOf, unvouchedIn } from './archive/seal.js';
export type { LoggedEdit, SealedEdit } from './archive/seal.js';
export { FormatError, NO_IMAGES } from './format.js';
export type { Images, RedlineFileOptions } from './format.js';
export { FORMATS, READ_ENDINGS, formatOfFile } from './names.js';
export type { Format, ReadFormat } from './names.js';
export { readFile, writeFile, writeRedline } from './file.js';
export type { RedlineFormat } from './file.js';
export { readDocx } from './docx/read.js';
export { writeDocx, writeDocxRedline } from './docx/write.js';
export { readHtml, writeHtml } from './html/html.js';
export { readMarkdown, writeMarkdown } from './markdown/markdown.js';
export { readOdt } from './odt/read.js';
export { writeOdt, writeOdtRedline } from './odt/write.js';
export { pictureOf } from './picture.js';
export type { Picture } from './picture.js';
export type { LeftOut, Reading, Remark, Tracked } from './reading.js';
export { pageRule } from './html/page.js';
export { comparisonPage } from './html/redline.js';
export type { RedlineOptions } from './html/redline.js';
export { readText, writeText } from './text/text.js';
export { handsOf } from './writing.js';
export type { Credited, Hand, HandStretch, Hands, WriteOptions } from './writing.js';
export {
  adopted,
  bookOf,
  plainOf,
  readCsv,
  readOds,
  readXlsx,
  shownIn,
  writeCsv,
  writeOds,
  writeXlsx,
} from './sheets/index.js';
export type { Look, PlainCell, PlainSheet } from './sheets/index.js';
