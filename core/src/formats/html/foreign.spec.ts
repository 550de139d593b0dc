import type { Node } from 'prosemirror-model';
import { textSchema as schema } from '../../kinds/text/index.js';
import { bold, check, checks, doc, h, li, link, ol, p, table, td, tr, ul } from '../../testing/build.js';
import { NO_IMAGES } from '../format.js';
import { readHtml } from './html.js';

const italic = (text: string): Node => schema.text(text, [schema.mark('italic')]);
const under = (text: string): Node => schema.text(text, [schema.mark('underline')]);
const item = (level: number, sign: string, text: string): string =>
  `<p class=MsoListParagraph style='margin-left:36pt;mso-list:l0 level${level} lfo1'><![if !supportLists]><span style='mso-list:Ignore'>${sign}<span style='font:7pt "Times New Roman"'>&nbsp;&nbsp; </span></span><![endif]>${text}<o:p></o:p></p>`;

/** Fragments as kinds of programs put them on the clipboard; common practice, no source. */
const CLIPBOARDS: readonly (readonly [string, string, Node])[] = [
  [
    'a word processor: list paragraphs, office elements, fonts',
    `<html xmlns:o="urn:x"><head><meta charset=utf-8><style><!-- p.MsoNormal {margin:0} --></style><xml><o:p>junk</o:p></xml></head><body><!--StartFragment--><h1>Tides<o:p></o:p></h1><p class=MsoNormal>So <b style='mso-bidi-font-weight:normal'>bold</b> and <span style='text-decoration:underline'>under</span>.<o:p></o:p></p>${item(1, '·', 'rope')}\n${item(2, 'o', 'thin')}\n${item(1, '·', 'oars')}<p class=MsoNormal>then</p>${item(1, '1.', 'gate')}${item(1, '2.', 'race')}<!--EndFragment--></body></html>`,
    doc(
      h(1, 'Tides'),
      p('So ', bold('bold'), ' and ', under('under'), '.'),
      ul(li(p('rope'), ul(li(p('thin')))), li(p('oars'))),
      p('then'),
      ol(li(p('gate')), li(p('race'))),
    ),
  ],
  [
    'a web editor: everything in a bold element that is not bold, weights in spans, lists beside items',
    '<meta charset="utf-8"><b style="font-weight:normal;" id="guid-1"><p dir="ltr"><span style="font-weight:700;font-style:normal">Ebb</span><span style="font-weight:400"> and </span><span style="font-style:italic">flood</span></p><ul><li dir="ltr" aria-level="1"><p role="presentation">rope</p></li><ul><li aria-level="2"><p>thin</p></li></ul><li><p>oars</p></li></ul></b>',
    doc(p(bold('Ebb'), ' and ', italic('flood')), ul(li(p('rope'), ul(li(p('thin')))), li(p('oars')))),
  ],
  [
    'a web editor: check boxes that are only said',
    '<ul><li role="checkbox" aria-checked="true"><p>bailer</p></li><li role="checkbox" aria-checked="false"><p>line</p></li></ul>',
    doc(checks(check(true, p('bailer')), check(false, p('line')))),
  ],
  [
    'an office suite: fonts, colours and an empty line',
    '<p style="margin-bottom: 0cm"><font face="Liberation Serif"><font size="3" style="font-size: 12pt"><b>Mill</b></font></font> <a href="https://withy.example/"><font color="#000080"><u>here</u></font></a></p><p><br/></p>',
    doc(
      p(
        bold('Mill'),
        ' ',
        schema.text('here', [
          schema.mark('link', { href: 'https://withy.example/', title: null }),
          schema.mark('underline'),
        ]),
      ),
      p(),
    ),
  ],
  [
    'a spreadsheet: a table with columns and styles',
    '<table border=0 cellpadding=0 style="border-collapse:collapse"><colgroup><col width=64 style="width:48pt"></colgroup><tr height=20><td height=20 class=xl65 style="height:15pt">Oak</td><td align=right x:num>4200</td></tr></table>',
    doc(table(tr(td(p('Oak')), td(schema.node('paragraph', { align: 'end' }, [schema.text('4200')]))))),
  ],
  [
    'a browser: spaces that must not be lost, hidden text, a link that is underlined as links are',
    '<p>one<span class="Apple-converted-space">&nbsp;</span><a href="https://withy.example/" style="text-decoration: underline">two</a><span style="display:none">secret</span><span style="visibility: hidden">more</span></p>',
    doc(p('one ', link('https://withy.example/', 'two'))),
  ],
];

describe('HTML from clipboards', () => {
  for (const [name, html, expected] of CLIPBOARDS)
    it(`comes in clean from ${name}`, () => {
      expect(readHtml(html, NO_IMAGES).toJSON()).toEqual(expected.toJSON());
    });
});
