import { doc, check, checks, h, li, link, p, table, td, tr, ul } from '../../testing/build.js';
import { textSchema as schema } from '../../kinds/text/index.js';
import { FormatError } from '../format.js';
import { pack, unpack } from '../packed/zip.js';
import type { Reading } from '../reading.js';
import { readDocx } from './read.js';
import { WRITTEN } from './names.js';

const TYPES = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

/** A file with this body, and further parts of the main one by the kind of their relationship. */
function file(body: string, parts: Readonly<Record<string, string>> = {}, spaces = WRITTEN.w): Uint8Array {
  const names = Object.keys(parts);
  const relation = (id: string, type: string, target: string): string =>
    `<Relationship Id="${id}" Type="${TYPES}/${type}" Target="${target}"${/^https?:/.test(target) ? ' TargetMode="External"' : ''}/>`;
  const relations = (content: string): string =>
    `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${content}</Relationships>`;
  const open = `xmlns:w="${spaces}" xmlns:r="${WRITTEN.r}" xmlns:w14="${WRITTEN.w14}"`;
  return pack([
    { name: '_rels/.rels', content: relations(relation('r', 'officeDocument', 'word/document.xml')) },
    { name: 'word/document.xml', content: `<w:document ${open}><w:body>${body}</w:body></w:document>` },
    {
      name: 'word/_rels/document.xml.rels',
      content: relations(
        names.map((type) => relation(type, type, `${type}.xml`)).join('') +
          relation('web', 'hyperlink', 'https://withy.example/'),
      ),
    },
    ...names.map((type) => ({
      name: `word/${type}.xml`,
      content: `<w:${type} ${open}>${parts[type] ?? ''}</w:${type}>`,
    })),
  ]);
}

const read = (body: string, parts?: Readonly<Record<string, string>>): Reading => readDocx(file(body, parts));
const r = (text: string, properties = ''): string =>
  `<w:r>${properties && `<w:rPr>${properties}</w:rPr>`}<w:t xml:space="preserve">${text}</w:t></w:r>`;
const par = (content: string, properties = ''): string =>
  `<w:p>${properties && `<w:pPr>${properties}</w:pPr>`}${content}</w:p>`;
const by = (author: string): string => `w:id="1" w:author="${author}" w:date="2026-11-20T10:00:00Z"`;

describe('a word-processor file that others wrote', () => {
  it('has styles by name, marks from styles and toggles, and links of every kind (ECMA-376 Part 1, 17.7, 17.16)', () => {
    const styles =
      '<w:style w:type="paragraph" w:styleId="U1"><w:name w:val="heading 2"/></w:style>' +
      '<w:style w:type="paragraph" w:styleId="Mine"><w:name w:val="Mine"/><w:basedOn w:val="U1"/></w:style>' +
      '<w:style w:type="character" w:styleId="Strong"><w:name w:val="Strong"/><w:rPr><w:b/></w:rPr></w:style>';
    const field =
      '<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText> HYPERLINK "https://withy.example/a" </w:instrText></w:r>' +
      `<w:r><w:fldChar w:fldCharType="separate"/></w:r>${r('old')}<w:r><w:fldChar w:fldCharType="end"/></w:r>`;
    const { doc: got, leftOut } = read(
      par(r('Tides'), '<w:pStyle w:val="Mine"/>') +
        par(
          r('so ') +
            r('bold', '<w:rStyle w:val="Strong"/>') +
            r(' not', '<w:rStyle w:val="Strong"/><w:b w:val="0"/>'),
        ) +
        par(`${field}<w:hyperlink r:id="web">${r('new')}</w:hyperlink>`),
      { styles },
    );
    const strong = schema.text('bold', [schema.mark('bold')]);
    expect(got.toJSON()).toEqual(
      doc(
        h(2, 'Tides'),
        p('so ', strong, ' not'),
        p(link('https://withy.example/a', 'old'), link('https://withy.example/', 'new')),
      ).toJSON(),
    );
    expect(leftOut).toEqual([]);
  });

  it('has lists by their numbering, check boxes by their controls, and merged cells (17.9, 17.4.84, [MS-DOCX] 2.5.4)', () => {
    const level = (i: number): string =>
      `<w:lvl w:ilvl="${i}"><w:start w:val="1"/><w:numFmt w:val="bullet"/><w:lvlText w:val="•"/></w:lvl>`;
    const numbering =
      `<w:abstractNum w:abstractNumId="4">${level(0)}${level(1)}</w:abstractNum>` +
      '<w:num w:numId="9"><w:abstractNumId w:val="4"/></w:num>';
    const item = (text: string, at = 0): string =>
      par(text, `<w:numPr><w:ilvl w:val="${at}"/><w:numId w:val="9"/></w:numPr>`);
    const box = (on: number): string =>
      `<w:sdt><w:sdtPr><w14:checkbox><w14:checked w14:val="${on}"/></w14:checkbox></w:sdtPr><w:sdtContent>${r('☐')}</w:sdtContent></w:sdt>`;
    const cell = (text: string, merge: string): string =>
      `<w:tc><w:tcPr>${merge}</w:tcPr>${par(r(text))}</w:tc>`;
    const { doc: got } = read(
      item(r('rope')) +
        item(r('thin'), 1) +
        item(r('oars')) +
        par(r('then')) +
        item(box(1) + r(' bailer')) +
        item(box(0) + r(' line')) +
        `<w:tbl><w:tr>${cell('a', '<w:vMerge w:val="restart"/>')}${cell('b', '')}</w:tr><w:tr>${cell('', '<w:vMerge/>')}${cell('c', '')}</w:tr></w:tbl>`,
      { numbering },
    );
    expect(got.toJSON()).toEqual(
      doc(
        ul(li(p('rope'), ul(li(p('thin')))), li(p('oars'))),
        p('then'),
        checks(check(true, p('bailer')), check(false, p('line'))),
        table(
          tr(schema.node('table_cell', { rowspan: 2 }, [p('a')]), td(p('b'))),
          schema.node('table_row', null, [td(p('c'))]),
        ),
      ).toJSON(),
    );
  });

  it('tells its tracked changes, with who made them and when, and both texts (17.13.5)', () => {
    const {
      doc: later,
      before,
      tracked,
    } = read(
      par(
        `${r('The ')}<w:del ${by('Tamsin Reve')}><w:r><w:delText>old </w:delText></w:r></w:del>` +
          `<w:ins ${by('Tamsin Reve')}>${r('new ')}</w:ins>${r('gate', `<w:b/><w:rPrChange ${by('Olu Adeyemi')}><w:rPr/></w:rPrChange>`)}`,
      ) +
        par(r('joined '), `<w:rPr><w:del ${by('Olu Adeyemi')}/></w:rPr>`) +
        par(r('here')) +
        `<w:moveFromRangeStart w:id="3" w:name="m" ${by('Ines Okell').slice(9)}/>` +
        par(
          `<w:moveFrom ${by('Ines Okell')}>${r('moved')}</w:moveFrom>`,
          `<w:rPr><w:moveFrom ${by('Ines Okell')}/></w:rPr>`,
        ) +
        par(
          `<w:moveTo ${by('Ines Okell')}>${r('moved')}</w:moveTo>`,
          `<w:rPr><w:moveTo ${by('Ines Okell')}/></w:rPr>`,
        ),
    );
    const bold = schema.text('gate', [schema.mark('bold')]);
    expect(later.toJSON()).toEqual(doc(p('The new ', bold), p('joined here'), p('moved')).toJSON());
    expect(before?.toJSON()).toEqual(doc(p('The old gate'), p('joined '), p('here'), p('moved')).toJSON());
    expect(tracked.map(({ kind, author, text }) => [kind, author, text])).toEqual([
      ['deletion', 'Tamsin Reve', 'old '],
      ['insertion', 'Tamsin Reve', 'new '],
      ['form', 'Olu Adeyemi', 'gate'],
      ['deletion', 'Olu Adeyemi', ''],
      ['movedFrom', 'Ines Okell', 'moved'],
      ['movedTo', 'Ines Okell', 'moved'],
    ]);
    expect(new Set(tracked.map(({ at }) => at))).toEqual(new Set(['2026-11-20T10:00:00.000Z']));
  });

  it('brings its comments with what they are about, and says what else was left out', () => {
    const comments = `<w:comment ${by('Olu Adeyemi').replace('w:id="1"', 'w:id="0"')}>${par(r('Which gate?'))}</w:comment>`;
    const { remarks, leftOut } = read(
      par(
        `${r('Shut ')}<w:commentRangeStart w:id="0"/>${r('the gate')}<w:commentRangeEnd w:id="0"/><w:r><w:commentReference w:id="0"/></w:r>` +
          '<w:r><w:footnoteReference w:id="2"/></w:r>',
      ) +
        `<w:sdt><w:sdtPr><w:docPartObj><w:docPartGallery w:val="Table of Contents"/></w:docPartObj></w:sdtPr><w:sdtContent>${par(r('Tides 1'))}</w:sdtContent></w:sdt>`,
      { comments },
    );
    expect(remarks).toEqual([
      { author: 'Olu Adeyemi', at: '2026-11-20T10:00:00.000Z', text: 'Which gate?', about: 'the gate' },
    ]);
    expect(leftOut).toEqual([{ what: 'tables of contents', times: 1 }]);
  });

  it('may be of the strict form, with the namespaces of ISO/IEC 29500-1', () => {
    const strict = 'http://purl.oclc.org/ooxml/wordprocessingml/main' as typeof WRITTEN.w;
    expect(readDocx(file(par(r('a')), {}, strict)).doc.toJSON()).toEqual(doc(p('a')).toJSON());
  });

  it('is refused in words when it is broken or hostile', () => {
    const entity = file(par(r('a')));
    const parts = [...unpack(entity)].map(([name, content]) => ({ name, content }));
    const main = (content: string): Uint8Array =>
      pack(parts.map((part) => (part.name === 'word/document.xml' ? { ...part, content } : part)));
    const cases: readonly [string, Uint8Array][] = [
      ['damaged', new Uint8Array([1, 2, 3])],
      ['damaged', entity.subarray(0, entity.length - 40)],
      ['no word-processor document', pack([{ name: 'a.txt', content: 'a' }])],
      ['far more than a document holds', pack([{ name: 'word/document.xml', content: ' '.repeat(5e6) }])],
      ['document type definition', main('<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>')],
      ['damaged', main('<w:document>')],
      ['nested', main(`${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}`)],
      ['no body', main('<a/>')],
    ];
    for (const [why, bytes] of cases) {
      const told = ((): unknown => {
        try {
          return readDocx(bytes);
        } catch (error) {
          return error;
        }
      })();
      expect(told instanceof FormatError ? told.message : told).toMatch(new RegExp(why));
    }
  });

  it('with a cell over more rows than a table may span, or a width that is no number, is read all the same', () => {
    const cell = (merge: string): string => `<w:tc><w:tcPr>${merge}</w:tcPr>${par(r('x'))}</w:tc>`;
    const row = (merge: string): string => `<w:tr>${cell(merge)}${cell('')}</w:tr>`;
    const rows = row('<w:vMerge w:val="restart"/>') + row('<w:vMerge/>').repeat(1100);
    const { doc: tall } = read(`<w:tbl>${rows}</w:tbl>`);
    expect([tall.child(0).childCount, tall.child(0).child(0).child(0).attrs['rowspan']]).toEqual([
      1101, 1000,
    ]);
    const { doc: wide } = read(
      `<w:tbl><w:tblPr><w:tblLayout w:type="fixed"/></w:tblPr><w:tblGrid><w:gridCol w:w="auto"/><w:gridCol w:w="1500"/></w:tblGrid>${row('')}</w:tbl>`,
    );
    expect(wide.child(0).child(0).child(1).attrs['colwidth']).toEqual([100]);
    expect(() => wide.check()).not.toThrow();
  });
});
