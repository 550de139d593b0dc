import type { Act } from './act';

/** What can be done to the text in hand. */
export const WRITING_ACTS = {
  paragraph: {
    label: $localize`Paragraph`,
    icon: 'paragraph',
    keys: 'mod+alt+0',
    about: $localize`Plain text`,
  },
  heading1: {
    label: $localize`Heading 1`,
    icon: 'heading',
    keys: 'mod+alt+1',
    about: $localize`A heading of the first level`,
  },
  heading2: {
    label: $localize`Heading 2`,
    icon: 'heading',
    keys: 'mod+alt+2',
    about: $localize`A heading of the second level`,
  },
  heading3: {
    label: $localize`Heading 3`,
    icon: 'heading',
    keys: 'mod+alt+3',
    about: $localize`A heading of the third level`,
  },
  bulletList: { label: $localize`Bullet list`, icon: 'bullet', about: $localize`Make it an item of a list` },
  numberedList: {
    label: $localize`Numbered list`,
    icon: 'numbered',
    about: $localize`Make it an item of a numbered list`,
  },
  checkList: {
    label: $localize`Check list`,
    icon: 'check',
    about: $localize`Make it an item that can be ticked`,
  },
  quote: { label: $localize`Quote`, icon: 'quote', about: $localize`Set it apart as a quote` },
  codeBlock: {
    label: $localize`Block of code`,
    icon: 'code',
    about: $localize`Keep it as it is typed, in one width`,
  },
  outOf: {
    label: $localize`Out of this list or quote`,
    icon: 'outOf',
    about: $localize`Take it out of what it stands in`,
  },

  bold: {
    label: $localize`Bold`,
    icon: 'bold',
    keys: 'mod+b',
    about: $localize`Make the selected text bold, or not`,
  },
  italic: {
    label: $localize`Italic`,
    icon: 'italic',
    keys: 'mod+i',
    about: $localize`Make the selected text italic, or not`,
  },
  underline: {
    label: $localize`Underline`,
    icon: 'underline',
    keys: 'mod+u',
    about: $localize`Underline the selected text, or not`,
  },
  strike: {
    label: $localize`Strike through`,
    icon: 'strike',
    about: $localize`Strike the selected text through, or not`,
  },
  subscript: { label: $localize`Subscript`, icon: 'sub', about: $localize`Set the selected text low` },
  superscript: { label: $localize`Superscript`, icon: 'sup', about: $localize`Set the selected text high` },
  code: {
    label: $localize`Code`,
    icon: 'code',
    keys: 'mod+e',
    about: $localize`Show the selected text as code, or not`,
  },
  plainLook: {
    label: $localize`Plain look`,
    icon: 'plain',
    about: $localize`Take all looks off the selected text; links stay`,
  },

  alignStart: {
    label: $localize`Align start`,
    icon: 'alignLeft',
    about: $localize`Align the paragraph at the start of the line`,
  },
  alignCenter: {
    label: $localize`Align centre`,
    icon: 'alignCenter',
    about: $localize`Centre the paragraph`,
  },
  alignEnd: {
    label: $localize`Align end`,
    icon: 'alignRight',
    about: $localize`Align the paragraph at the end of the line`,
  },
  alignJustify: {
    label: $localize`Justify`,
    icon: 'alignJustify',
    about: $localize`Align the paragraph at both ends`,
  },

  insertTable: { label: $localize`Table`, icon: 'table', about: $localize`Insert a table of three columns` },
  insertImage: { label: $localize`Image …`, icon: 'image', about: $localize`Insert a picture from a file` },
  insertFootnote: {
    label: $localize`Footnote`,
    icon: 'footnote',
    about: $localize`Insert a footnote at the caret`,
  },
  insertRule: { label: $localize`Rule`, icon: 'rule', about: $localize`Insert a line across the page` },
  insertPageBreak: {
    label: $localize`Page break`,
    icon: 'pageBreak',
    about: $localize`Begin a new page here`,
  },
  pageSetup: {
    label: $localize`Page set-up …`,
    icon: 'pageSetup',
    about: $localize`Paper, margins, header, footer and page numbers`,
  },

  rowAbove: { label: $localize`Row above`, about: $localize`Insert a row above this one` },
  rowBelow: { label: $localize`Row below`, about: $localize`Insert a row below this one` },
  columnBefore: { label: $localize`Column before`, about: $localize`Insert a column before this one` },
  columnAfter: { label: $localize`Column after`, about: $localize`Insert a column after this one` },
  removeRow: { label: $localize`Remove row`, about: $localize`Remove the row the caret is in` },
  removeColumn: { label: $localize`Remove column`, about: $localize`Remove the column the caret is in` },
  mergeCells: { label: $localize`Merge cells`, about: $localize`Make one cell of those that are selected` },
  splitCell: { label: $localize`Split cell`, about: $localize`Make cells of one that was merged` },
  headingRow: { label: $localize`Heading row`, about: $localize`Make the first row a heading, or not` },
  headingColumn: {
    label: $localize`Heading column`,
    about: $localize`Make the first column a heading, or not`,
  },
  wider: { label: $localize`Wider column`, about: $localize`Make the column the caret is in wider` },
  narrower: { label: $localize`Narrower column`, about: $localize`Make the column the caret is in narrower` },
  evenColumns: {
    label: $localize`Even columns`,
    about: $localize`Give all columns their width by what they hold`,
  },
  removeTable: { label: $localize`Remove table`, about: $localize`Remove the whole table` },

  imageInLine: { label: $localize`In the line`, about: $localize`Let the image stand in the line of text` },
  imageAtStart: {
    label: $localize`At the left, text beside it`,
    about: $localize`Let text flow past the right of the image`,
  },
  imageAtEnd: {
    label: $localize`At the right, text beside it`,
    about: $localize`Let text flow past the left of the image`,
  },
  imageWide: { label: $localize`Across the page`, about: $localize`Let the image stand by itself` },
  aboutImage: {
    label: $localize`Size and caption …`,
    about: $localize`Width, caption and alternative text of the image`,
  },
} satisfies Record<string, Act>;

export type WritingActId = keyof typeof WRITING_ACTS;
