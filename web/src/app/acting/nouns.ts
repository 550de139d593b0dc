/** The nouns of our own, each with what it is: `docs/words.md` tells the same at more length. */
export const NOUNS = {
  tideline: {
    name: 'Tideline',
    is: 'The line along the bottom of a document: its whole life, from the first word to now. Words added rise above it, words removed fall below it, in the colours of who wrote. Click on it to see the page as it was.',
  },
  moment: {
    name: 'Moment',
    is: 'A document right after one edit. Every moment can be opened, compared, and brought back.',
  },
  sitting: {
    name: 'Sitting',
    is: 'What was written in one go: it ends when nobody writes for ten minutes.',
  },
  landmark: {
    name: 'Landmark',
    is: 'A moment with a name, such as “As agreed”. It stands on the tideline as a post and is found again by its name, for years and under the same link.',
  },
  earlierLater: {
    name: 'Earlier and Later',
    is: 'The two handles on the tideline: the page shows the document at Later, with marks for what changed since Earlier.',
  },
  ledger: {
    name: 'Ledger',
    is: 'The margin beside the page. Its tabs say who changed each passage, and when.',
  },
  carry: {
    name: 'Carry forward',
    is: 'Copying a passage from the past into the page as it is now. Whoever wrote it keeps the credit.',
  },
  assemble: {
    name: 'Assemble',
    is: 'Deciding change by change what to take of two versions, and keeping the outcome.',
  },
  holdBack: {
    name: 'Hold back',
    is: 'Writing that stays on this device, seen by nobody else, until you publish it.',
  },
  draft: {
    name: 'Stranded draft',
    is: 'Writing of yours that was found on this device and had not reached the others.',
  },
  removed: {
    name: 'Removed passages',
    is: 'What has left the document: it can be found, and put back where it stood.',
  },
  life: {
    name: 'Passage life',
    is: 'One paragraph through all of its forms: who made it so, and when.',
  },
  erased: {
    name: 'Erased',
    is: 'Text that an owner took out of the page, of every moment of its history and of all copies, for good. A bar of its length stands in its place.',
  },
  shelf: { name: 'Shelf', is: 'All documents that you have, under their collections.' },
  arrivals: {
    name: 'Arrivals',
    is: 'Files that came from outside by mail, waiting to be imported or dismissed.',
  },
  readingLink: {
    name: 'Reading link',
    is: 'A link by which anybody reads one document, without signing in and without its history.',
  },
} as const satisfies Record<string, { readonly name: string; readonly is: string }>;

export type NounId = keyof typeof NOUNS;
