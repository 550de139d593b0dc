import type { Act } from './act';

/** What can be done to the text in hand. */
export const WRITING_ACTS = {
  paragraph: { label: 'Paragraph', icon: 'paragraph', keys: 'mod+alt+0', about: 'Plain text' },
  heading1: { label: 'Heading 1', icon: 'heading', keys: 'mod+alt+1', about: 'A heading of the first level' },
  heading2: {
    label: 'Heading 2',
    icon: 'heading',
    keys: 'mod+alt+2',
    about: 'A heading of the second level',
  },
  heading3: { label: 'Heading 3', icon: 'heading', keys: 'mod+alt+3', about: 'A heading of the third level' },
  bulletList: { label: 'Bullet list', icon: 'bullet', about: 'Make it an item of a list' },
  numberedList: { label: 'Numbered list', icon: 'numbered', about: 'Make it an item of a numbered list' },
  checkList: { label: 'Check list', icon: 'check', about: 'Make it an item that can be ticked' },
  quote: { label: 'Quote', icon: 'quote', about: 'Set it apart as a quote' },
  codeBlock: { label: 'Block of code', icon: 'code', about: 'Keep it as it is typed, in one width' },
  outOf: { label: 'Out of this list or quote', icon: 'outOf', about: 'Take it out of what it stands in' },

  bold: { label: 'Bold', icon: 'bold', keys: 'mod+b', about: 'Make the selected text bold, or not' },
  italic: { label: 'Italic', icon: 'italic', keys: 'mod+i', about: 'Make the selected text italic, or not' },
  underline: {
    label: 'Underline',
    icon: 'underline',
    keys: 'mod+u',
    about: 'Underline the selected text, or not',
  },
  strike: { label: 'Strike through', icon: 'strike', about: 'Strike the selected text through, or not' },
  subscript: { label: 'Subscript', icon: 'sub', about: 'Set the selected text low' },
  superscript: { label: 'Superscript', icon: 'sup', about: 'Set the selected text high' },
  code: { label: 'Code', icon: 'code', keys: 'mod+e', about: 'Show the selected text as code, or not' },
  plainLook: {
    label: 'Plain look',
    icon: 'plain',
    about: 'Take all looks off the selected text; links stay',
  },

  alignStart: {
    label: 'Align start',
    icon: 'alignLeft',
    about: 'Align the paragraph at the start of the line',
  },
  alignCenter: { label: 'Align centre', icon: 'alignCenter', about: 'Centre the paragraph' },
  alignEnd: { label: 'Align end', icon: 'alignRight', about: 'Align the paragraph at the end of the line' },
  alignJustify: { label: 'Justify', icon: 'alignJustify', about: 'Align the paragraph at both ends' },

  insertTable: { label: 'Table', icon: 'table', about: 'Insert a table of three columns' },
  insertImage: { label: 'Image …', icon: 'image', about: 'Insert a picture from a file' },
  insertFootnote: { label: 'Footnote', icon: 'footnote', about: 'Insert a footnote at the caret' },
  insertRule: { label: 'Rule', icon: 'rule', about: 'Insert a line across the page' },
  insertPageBreak: { label: 'Page break', icon: 'pageBreak', about: 'Begin a new page here' },
  pageSetup: {
    label: 'Page set-up …',
    icon: 'pageSetup',
    about: 'Paper, margins, header, footer and page numbers',
  },

  rowAbove: { label: 'Row above', about: 'Insert a row above this one' },
  rowBelow: { label: 'Row below', about: 'Insert a row below this one' },
  columnBefore: { label: 'Column before', about: 'Insert a column before this one' },
  columnAfter: { label: 'Column after', about: 'Insert a column after this one' },
  removeRow: { label: 'Remove row', about: 'Remove the row the caret is in' },
  removeColumn: { label: 'Remove column', about: 'Remove the column the caret is in' },
  mergeCells: { label: 'Merge cells', about: 'Make one cell of those that are selected' },
  splitCell: { label: 'Split cell', about: 'Make cells of one that was merged' },
  headingRow: { label: 'Heading row', about: 'Make the first row a heading, or not' },
  headingColumn: { label: 'Heading column', about: 'Make the first column a heading, or not' },
  wider: { label: 'Wider column', about: 'Make the column the caret is in wider' },
  narrower: { label: 'Narrower column', about: 'Make the column the caret is in narrower' },
  evenColumns: { label: 'Even columns', about: 'Give all columns their width by what they hold' },
  removeTable: { label: 'Remove table', about: 'Remove the whole table' },

  imageInLine: { label: 'In the line', about: 'Let the image stand in the line of text' },
  imageAtStart: { label: 'At the left, text beside it', about: 'Let text flow past the right of the image' },
  imageAtEnd: { label: 'At the right, text beside it', about: 'Let text flow past the left of the image' },
  imageWide: { label: 'Across the page', about: 'Let the image stand by itself' },
  aboutImage: { label: 'Size and caption …', about: 'Width, caption and alternative text of the image' },
} satisfies Record<string, Act>;

export type WritingActId = keyof typeof WRITING_ACTS;
