import type { Act } from './act';
import { DECK_ACTS } from './deck-acts';
import { SHEET_ACTS } from './sheet-acts';
import { WRITING_ACTS } from './writing-acts';

const acts = {
  help: {
    label: $localize`Help`,
    keys: '?',
    about: $localize`What can be done here, the keys, and the words`,
  },
  guide: {
    label: $localize`Show me round`,
    about: $localize`The six questions that are answered here, in a minute`,
  },
  commands: {
    label: $localize`Find a command`,
    keys: 'mod+/',
    about: $localize`Find any act, room, version or document by typing`,
  },

  shelf: { label: $localize`To the shelf`, about: $localize`All documents` },
  arrivals: {
    label: $localize`Arrivals`,
    about: $localize`Files that came from outside and wait to be imported`,
  },
  bin: { label: $localize`Bin`, about: $localize`Documents that were put away` },
  account: {
    label: $localize`Your account and settings`,
    about: $localize`Look, mail, keys, name and password`,
  },
  people: { label: $localize`People`, about: $localize`Invite people, and say who belongs here` },
  signOut: { label: $localize`Sign out`, about: $localize`Sign out of this browser` },
  newDocument: { label: $localize`New document`, about: $localize`Make a blank document` },
  newCollection: { label: $localize`New collection`, about: $localize`Make a collection of documents` },
  importFile: { label: $localize`Import a file`, about: $localize`Make a document from a file` },

  undo: { label: $localize`Undo`, icon: 'undo', keys: 'mod+z', about: $localize`Undo your own last change` },
  redo: { label: $localize`Redo`, icon: 'redo', keys: 'mod+y', about: $localize`Do again what you undid` },
  findHere: {
    label: $localize`Find and replace`,
    keys: 'mod+f',
    about: $localize`Words on the page as it is now`,
  },
  link: {
    label: $localize`Link …`,
    icon: 'link',
    keys: 'mod+k',
    about: $localize`Make a link of the selected text, or change the one the caret is in`,
  },
  outline: {
    label: $localize`Outline`,
    keys: 'alt+o',
    about: $localize`Headings, how long each section is, and what changed in it`,
  },
  ...WRITING_ACTS,
  ...SHEET_ACTS,
  ...DECK_ACTS,

  share: { label: $localize`Share …`, about: $localize`Who has this document, and how` },
  keeping: {
    label: $localize`Keeping and erasing …`,
    about: $localize`How long versions are kept, which were discarded, and what was erased`,
  },
  erase: {
    label: $localize`Erase the selection …`,
    about: $localize`Erase the selected text or image for good, from all of the history`,
  },
  print: { label: $localize`Print …`, about: $localize`Print the page as it is now` },
  keepVersion: { label: $localize`Keep a version now`, about: $localize`Make this moment a version` },
  log: { label: $localize`Log`, about: $localize`The history as a table` },
  fold: { label: $localize`Fold the tideline`, about: $localize`Fold the tideline away, or unfold it` },
  ledger: {
    label: $localize`Who wrote what`,
    keys: 'alt+w',
    about: $localize`Who put each passage there, and when`,
  },
  toTideline: {
    label: $localize`Go to the tideline`,
    keys: 'alt+t',
    about: $localize`Move along the history with the arrow keys`,
  },

  compare: { label: $localize`Compare …`, keys: 'c', about: $localize`Compare two versions, or a file` },
  find: {
    label: $localize`Find in time`,
    keys: 'f',
    about: $localize`Words in every moment of this document`,
  },
  removed: { label: $localize`Removed`, keys: 'r', about: $localize`Passages that have left this document` },
  returned: {
    label: $localize`Returned files …`,
    about: $localize`Several files that came back from readers, decided passage by passage`,
  },
  contributors: { label: $localize`Contributors`, about: $localize`Who wrote how much, and when` },
  play: { label: $localize`Play back`, keys: 'p', about: $localize`Watch it being written` },
  nameMoment: {
    label: $localize`Name this moment`,
    keys: 'n',
    about: $localize`Make the picked moment a landmark, or now`,
  },

  backToNow: {
    label: $localize`Back to now`,
    keys: 'escape',
    about: $localize`Leave the past, at the same place in the text`,
  },
  leaveRoom: { label: $localize`Back to the page`, keys: 'escape', about: $localize`Leave this room` },
  discard: {
    label: $localize`Discard this version`,
    about: $localize`Put the picked version out of sight for everybody but owners`,
  },
  nextChange: { label: $localize`Next change`, keys: 'j', about: $localize`Go to the next change` },
  previousChange: {
    label: $localize`Previous change`,
    keys: 'k',
    about: $localize`Go to the previous change`,
  },
  marks: {
    label: $localize`Show or hide the marks`,
    keys: 'm',
    about: $localize`Read the text without its marks`,
  },
  assemble: { label: $localize`Assemble`, keys: 'a', about: $localize`Decide change by change` },
  carry: {
    label: $localize`Carry forward …`,
    keys: 'b',
    about: $localize`Bring a passage of this moment into the present`,
  },
  goToChange: {
    label: $localize`Go to where this was changed`,
    keys: 'g',
    about: $localize`The moment of the current change`,
  },
  life: {
    label: $localize`Passage life`,
    keys: 'l',
    about: $localize`All forms of the passage of the current change`,
  },
  takeEarlier: {
    label: $localize`Take the earlier`,
    keys: '1',
    about: $localize`Decide for the earlier form`,
  },
  takeBoth: { label: $localize`Take both`, keys: '2', about: $localize`Decide for both forms` },
  takeLater: { label: $localize`Take the later`, keys: '3', about: $localize`Decide for the later form` },
} satisfies Record<string, Act>;

export type ActId = keyof typeof acts;
export type { Act } from './act';

/** Everything that can be done, once: menus, buttons, keys, help and the list of commands take it from here. */
export const ACTS: Readonly<Record<ActId, Act>> = acts;

/** Keys as they are told to people, such as `Ctrl+/`. */
export function keysTold(keys: string, isMac = /mac/i.test(navigator.platform)): string {
  const names: Readonly<Record<string, string>> = {
    mod: isMac ? '⌘' : 'Ctrl',
    alt: isMac ? '⌥' : 'Alt',
    escape: $localize`Esc`,
    delete: $localize`Del`,
    arrowup: '↑',
    arrowdown: '↓',
    arrowleft: '←',
    arrowright: '→',
    pageup: $localize`Page up`,
    pagedown: $localize`Page down`,
  };
  return keys
    .split('+')
    .map((key) => names[key] ?? key.toUpperCase())
    .join('+');
}
