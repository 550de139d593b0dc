import type { Element, Namespaces } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import type { ZipPart } from '../packed/zip.js';
import { relations } from '../docx/parts.js';

const OOXML = 'http://schemas.openxmlformats.org';
const STRICT = 'http://purl.oclc.org/ooxml';

/** Namespaces that are written, and those that are read, transitional and strict (ISO/IEC 29500). */
export const WRITTEN = {
  a: `${OOXML}/drawingml/2006/main`,
  p: `${OOXML}/presentationml/2006/main`,
  r: `${OOXML}/officeDocument/2006/relationships`,
} as const;
export const READ: Namespaces = {
  [WRITTEN.a]: 'a',
  [WRITTEN.p]: 'p',
  [WRITTEN.r]: 'r',
  [`${STRICT}/drawingml/main`]: 'a',
  [`${STRICT}/presentationml/main`]: 'p',
  [`${STRICT}/officeDocument/relationships`]: 'r',
};

/** English metric units in a unit of the slide: 16,000 of these are the 12,192,000 that a wide slide has. */
export const EMU = 762;

/** Sizes of text in hundredths of a point: of titles, and of all else. */
export const SIZES = { title: 3600, text: 2400 } as const;

/** The inks of a highlighter as colours. */
export const INK_COLOURS: Readonly<Record<string, string>> = {
  sand: 'F3E8CB',
  reed: 'DCEBD2',
  sky: 'D6E9F0',
  rose: 'F4DCD9',
};

/** What every presentation needs beside its slides: one master, one layout and a theme of our own, and a master of notes. */
export function frameParts(): ZipPart[] {
  const part = (name: string, root: Element): ZipPart => ({ name: `ppt/${name}`, content: printXml(root) });
  const relation = (id: string, type: string, target: string): Element =>
    el('Relationship', { Id: id, Type: `${WRITTEN.r}/${type}`, Target: target });
  return [
    part('slideMasters/slideMaster1.xml', master()),
    part(
      'slideMasters/_rels/slideMaster1.xml.rels',
      relations([
        relation('layout', 'slideLayout', '../slideLayouts/slideLayout1.xml'),
        relation('theme', 'theme', '../theme/theme1.xml'),
      ]),
    ),
    part(
      'slideLayouts/slideLayout1.xml',
      el('p:sldLayout', { ...DECLARED, type: 'titleOnly' }, [slide([title()])]),
    ),
    part(
      'slideLayouts/_rels/slideLayout1.xml.rels',
      relations([relation('master', 'slideMaster', '../slideMasters/slideMaster1.xml')]),
    ),
    part('notesMasters/notesMaster1.xml', el('p:notesMaster', DECLARED, [slide([]), colours()])),
    part(
      'notesMasters/_rels/notesMaster1.xml.rels',
      relations([relation('theme', 'theme', '../theme/theme2.xml')]),
    ),
    part('theme/theme1.xml', theme()),
    part('theme/theme2.xml', theme()),
  ];
}

const DECLARED = { 'xmlns:a': WRITTEN.a, 'xmlns:r': WRITTEN.r, 'xmlns:p': WRITTEN.p };

function slide(shapes: readonly Element[]): Element {
  return el('p:cSld', {}, [
    el('p:spTree', {}, [
      el('p:nvGrpSpPr', {}, [el('p:cNvPr', { id: 1, name: '' }), el('p:cNvGrpSpPr'), el('p:nvPr')]),
      el('p:grpSpPr'),
      ...shapes,
    ]),
  ]);
}

/** The place of the title: across the head of the slide. */
function title(): Element {
  return el('p:sp', {}, [
    el('p:nvSpPr', {}, [
      el('p:cNvPr', { id: 2, name: 'Title' }),
      el('p:cNvSpPr'),
      el('p:nvPr', {}, [el('p:ph', { type: 'title' })]),
    ]),
    el('p:spPr', {}, [
      el('a:xfrm', {}, [
        el('a:off', { x: 1000 * EMU, y: 600 * EMU }),
        el('a:ext', { cx: 14_000 * EMU, cy: 1600 * EMU }),
      ]),
    ]),
    el('p:txBody', {}, [el('a:bodyPr', { anchor: 'b' }), el('a:lstStyle'), el('a:p')]),
  ]);
}

function master(): Element {
  const levels = Array.from({ length: 9 }, (_, i) =>
    el(`a:lvl${i + 1}pPr`, {}, [el('a:defRPr', { sz: SIZES.text }, [font('minor')])]),
  );
  return el('p:sldMaster', DECLARED, [
    slide([title()]),
    colours(),
    el('p:sldLayoutIdLst', {}, [el('p:sldLayoutId', { id: 2 ** 31 + 1, 'r:id': 'layout' })]),
    el('p:txStyles', {}, [
      el('p:titleStyle', {}, [el('a:lvl1pPr', {}, [el('a:defRPr', { sz: SIZES.title }, [font('major')])])]),
      el('p:bodyStyle', {}, levels),
      el('p:otherStyle', {}, levels),
    ]),
  ]);
}

function font(which: 'major' | 'minor'): Element {
  return el('a:latin', { typeface: which === 'major' ? '+mj-lt' : '+mn-lt' });
}

function colours(): Element {
  const accents = Array.from({ length: 6 }, (_, i) => [`accent${i + 1}`, `accent${i + 1}`]);
  return el(
    'p:clrMap',
    Object.fromEntries([
      ['bg1', 'lt1'],
      ['tx1', 'dk1'],
      ['bg2', 'lt2'],
      ['tx2', 'dk2'],
      ...accents,
      ['hlink', 'hlink'],
      ['folHlink', 'folHlink'],
    ]),
  );
}

/** A theme of our own: the paper, ink and inks that the product has. */
function theme(): Element {
  const colour = (name: string, val: string): Element => el(`a:${name}`, {}, [el('a:srgbClr', { val })]);
  const fonts = (name: string, typeface: string): Element =>
    el(`a:${name}`, {}, [
      el('a:latin', { typeface }),
      el('a:ea', { typeface: '' }),
      el('a:cs', { typeface: '' }),
    ]);
  const fill = (): Element => el('a:solidFill', {}, [el('a:schemeClr', { val: 'phClr' })]);
  const three = (make: () => Element): Element[] => [make(), make(), make()];
  return el('a:theme', { 'xmlns:a': WRITTEN.a, name: 'Tide' }, [
    el('a:themeElements', {}, [
      el('a:clrScheme', { name: 'Tide' }, [
        colour('dk1', '17343A'),
        colour('lt1', 'FFFDF8'),
        colour('dk2', '4D656A'),
        colour('lt2', 'F5F2EA'),
        ...['0E7490', 'B7791F', 'A23B2E', '009E73', '56B4E9', 'CC79A7'].map((val, i) =>
          colour(`accent${i + 1}`, val),
        ),
        colour('hlink', '0B6478'),
        colour('folHlink', '4D656A'),
      ]),
      el('a:fontScheme', { name: 'Tide' }, [
        fonts('majorFont', 'Source Serif 4'),
        fonts('minorFont', 'Figtree'),
      ]),
      el('a:fmtScheme', { name: 'Tide' }, [
        el('a:fillStyleLst', {}, three(fill)),
        el(
          'a:lnStyleLst',
          {},
          three(() => el('a:ln', { w: 6350 }, [fill()])),
        ),
        el(
          'a:effectStyleLst',
          {},
          three(() => el('a:effectStyle', {}, [el('a:effectLst')])),
        ),
        el('a:bgFillStyleLst', {}, three(fill)),
      ]),
    ]),
  ]);
}
