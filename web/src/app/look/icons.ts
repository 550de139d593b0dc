import { inject, provideAppInitializer } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import add from '@material-symbols/svg-400/outlined/add.svg';
import alignCenter from '@material-symbols/svg-400/outlined/format_align_center.svg';
import alignJustify from '@material-symbols/svg-400/outlined/format_align_justify.svg';
import alignLeft from '@material-symbols/svg-400/outlined/format_align_left.svg';
import alignRight from '@material-symbols/svg-400/outlined/format_align_right.svg';
import bold from '@material-symbols/svg-400/outlined/format_bold.svg';
import bullet from '@material-symbols/svg-400/outlined/format_list_bulleted.svg';
import check from '@material-symbols/svg-400/outlined/checklist.svg';
import done from '@material-symbols/svg-400/outlined/check.svg';
import close from '@material-symbols/svg-400/outlined/close.svg';
import code from '@material-symbols/svg-400/outlined/code.svg';
import description from '@material-symbols/svg-400/outlined/description.svg';
import down from '@material-symbols/svg-400/outlined/arrow_downward.svg';
import download from '@material-symbols/svg-400/outlined/download.svg';
import edit from '@material-symbols/svg-400/outlined/edit.svg';
import folder from '@material-symbols/svg-400/outlined/folder.svg';
import footnote from '@material-symbols/svg-400/outlined/asterisk.svg';
import outOf from '@material-symbols/svg-400/outlined/format_indent_decrease.svg';
import pageSetup from '@material-symbols/svg-400/outlined/crop_portrait.svg';
import plain from '@material-symbols/svg-400/outlined/format_clear.svg';
import fold from '@material-symbols/svg-400/outlined/chevron_right.svg';
import unfold from '@material-symbols/svg-400/outlined/chevron_left.svg';
import heading from '@material-symbols/svg-400/outlined/title.svg';
import mark from '@material-symbols/svg-400/outlined/bookmark.svg';
import marked from '@material-symbols/svg-400/outlined/bookmark-fill.svg';
import highlight from '@material-symbols/svg-400/outlined/ink_highlighter.svg';
import image from '@material-symbols/svg-400/outlined/image.svg';
import italic from '@material-symbols/svg-400/outlined/format_italic.svg';
import link from '@material-symbols/svg-400/outlined/link.svg';
import more from '@material-symbols/svg-400/outlined/more_horiz.svg';
import numbered from '@material-symbols/svg-400/outlined/format_list_numbered.svg';
import pageBreak from '@material-symbols/svg-400/outlined/insert_page_break.svg';
import people from '@material-symbols/svg-400/outlined/group.svg';
import paragraph from '@material-symbols/svg-400/outlined/format_paragraph.svg';
import quote from '@material-symbols/svg-400/outlined/format_quote.svg';
import redo from '@material-symbols/svg-400/outlined/redo.svg';
import remove from '@material-symbols/svg-400/outlined/remove.svg';
import right from '@material-symbols/svg-400/outlined/arrow_forward.svg';
import numbers from '@material-symbols/svg-400/outlined/123.svg';
import sort from '@material-symbols/svg-400/outlined/sort_by_alpha.svg';
import rule from '@material-symbols/svg-400/outlined/horizontal_rule.svg';
import search from '@material-symbols/svg-400/outlined/search.svg';
import strike from '@material-symbols/svg-400/outlined/format_strikethrough.svg';
import sub from '@material-symbols/svg-400/outlined/subscript.svg';
import sup from '@material-symbols/svg-400/outlined/superscript.svg';
import table from '@material-symbols/svg-400/outlined/table.svg';
import underline from '@material-symbols/svg-400/outlined/format_underlined.svg';
import undo from '@material-symbols/svg-400/outlined/undo.svg';
import show from '@material-symbols/svg-400/outlined/slideshow.svg';
import slide from '@material-symbols/svg-400/outlined/crop_16_9.svg';
import box from '@material-symbols/svg-400/outlined/crop_free.svg';
import textBox from '@material-symbols/svg-400/outlined/text_fields.svg';
import up from '@material-symbols/svg-400/outlined/arrow_upward.svg';
import upload from '@material-symbols/svg-400/outlined/upload_file.svg';

/** Glyphs of our own for the core acts; the stock set is for everything else. */
const own = {
  restore:
    '<svg viewBox="0 0 24 24"><path d="M3 18.500h18v1.600H3zM5 15c1.500-6 6-9.500 11-8.200l-1.600-2.500 1.500-.9 3.300 5-5.300 2.700-.8-1.600 2.400-1.200C11.700 7.600 8.200 10.400 6.700 15.400z"/></svg>',
  keep: '<svg viewBox="0 0 24 24"><path d="M11.200 3h1.600v11h-1.600zM8 5.500h8V7H8zM3 18.500h18v1.600H3zM6 16c2-2 4-2 6 0s4 2 6 0v1.700c-2.200 1.600-4.200 1.600-6.300-.3-1.900-1.700-3.600-1.600-5.700.3z"/></svg>',
  takeBack:
    '<svg viewBox="0 0 24 24"><path d="M3 18.500h18v1.600H3zM18.500 15c-1.500-6-6-9.500-11-8.200l1.600-2.500-1.500-.9-3.300 5 5.300 2.700.8-1.600-2.400-1.200c3.800-.7 7.300 2.100 8.800 7.100z"/></svg>',
  carry:
    '<svg viewBox="0 0 24 24"><path d="M3 18.500h18v1.600H3zM3.500 4h1.600v12H3.500zM7.500 9.200h7.400l-2.600-2.600 1.100-1.100 4.500 4.500-4.500 4.500-1.100-1.100 2.600-2.600H7.500zM19.300 4h1.600v12h-1.600z"/></svg>',
  assemble:
    '<svg viewBox="0 0 24 24"><path d="M3 18.500h18v1.600H3zM5 3h1.600v3.500c0 2.600 4.600 2.800 4.600 6V16h1.600v-3.500c0-3.200 4.600-3.400 4.600-6V3H19v3.500c0 3.900-4.600 4-4.600 6V17.500H9.600v-5C9.600 10.500 5 10.400 5 6.500z"/></svg>',
  checkOut:
    '<svg viewBox="0 0 24 24"><path d="M3 18.500h18v1.600H3zM5 3h9v1.600H6.600V15H5zM9 15V7.500h9V15h-1.600V9.100h-5.800V15z"/></svg>',
  oxbow:
    '<svg viewBox="0 0 30 22"><path d="M2 20h26" stroke="currentColor" stroke-width="2.200" stroke-linecap="round" fill="none"/><path d="M4 16.500C8 7 13 3.500 17.500 5.500c4.500 2.200 3.800 8.500-.7 8.300-3.300-.2-3.500-4.300-.3-4.800" stroke="var(--accent)" stroke-width="2.600" stroke-linecap="round" fill="none"/></svg>',
};

const stock = {
  add,
  alignCenter,
  alignJustify,
  alignLeft,
  alignRight,
  bold,
  box,
  bullet,
  check,
  close,
  code,
  description,
  done,
  down,
  download,
  edit,
  folder,
  footnote,
  outOf,
  pageSetup,
  plain,
  fold,
  unfold,
  heading,
  highlight,
  mark,
  marked,
  image,
  italic,
  link,
  more,
  numbered,
  pageBreak,
  paragraph,
  people,
  quote,
  redo,
  remove,
  rule,
  search,
  show,
  slide,
  strike,
  textBox,
  sub,
  sup,
  table,
  right,
  numbers,
  sort,
  underline,
  undo,
  up,
  upload,
};

/** Registers the icons the app uses, each drawn from its own small SVG. */
export function provideIcons() {
  return provideAppInitializer(() => {
    const registry = inject(MatIconRegistry);
    const sanitizer = inject(DomSanitizer);
    for (const [name, svg] of Object.entries({ ...stock, ...own }))
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
  });
}
