/** The nouns of our own, each with what it is: `docs/words.md` tells the same at more length. */
export const NOUNS = {
  tideline: {
    name: $localize`Tideline`,
    is: $localize`The line along the bottom of a document: its whole life, from the first word to now. Words added rise above it, words removed fall below it, in the colours of who wrote. Click on it to see the page as it was.`,
  },
  moment: {
    name: $localize`Moment`,
    is: $localize`A document right after one edit. Every moment can be opened, compared, and brought back.`,
  },
  sitting: {
    name: $localize`Sitting`,
    is: $localize`What was written in one go: it ends when nobody writes for ten minutes.`,
  },
  landmark: {
    name: $localize`Landmark`,
    is: $localize`A moment with a name, such as “As agreed”. It stands on the tideline as a post and is found again by its name, for years and under the same link.`,
  },
  earlierLater: {
    name: $localize`Earlier and Later`,
    is: $localize`The two handles on the tideline: the page shows the document at Later, with marks for what changed since Earlier.`,
  },
  ledger: {
    name: $localize`Ledger`,
    is: $localize`The margin beside the page. Its tabs say who changed each passage, and when.`,
  },
  carry: {
    name: $localize`Carry forward`,
    is: $localize`Copying a passage from the past into the page as it is now. Whoever wrote it keeps the credit.`,
  },
  assemble: {
    name: $localize`Assemble`,
    is: $localize`Deciding change by change what to take of two versions, and keeping the outcome.`,
  },
  holdBack: {
    name: $localize`Hold back`,
    is: $localize`Writing that stays on this device, seen by nobody else, until you publish it.`,
  },
  draft: {
    name: $localize`Stranded draft`,
    is: $localize`Writing of yours that was found on this device and had not reached the others.`,
  },
  removed: {
    name: $localize`Removed passages`,
    is: $localize`What has left the document: it can be found, and put back where it stood.`,
  },
  life: {
    name: $localize`Passage life`,
    is: $localize`One paragraph through all of its forms: who made it so, and when.`,
  },
  erased: {
    name: $localize`Erased`,
    is: $localize`Text that an owner took out of the page, of every moment of its history and of all copies, for good. A bar of its length stands in its place.`,
  },
  shelf: { name: $localize`Shelf`, is: $localize`All documents that you have, under their collections.` },
  arrivals: {
    name: $localize`Arrivals`,
    is: $localize`Files that came from outside by mail, waiting to be imported or dismissed.`,
  },
  readingLink: {
    name: $localize`Reading link`,
    is: $localize`A link by which anybody reads one document, without signing in and without its history.`,
  },
} as const satisfies Record<string, { readonly name: string; readonly is: string }>;

export type NounId = keyof typeof NOUNS;
