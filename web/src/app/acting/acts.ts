import type { Act } from './act';
import { WRITING_ACTS } from './writing-acts';

const acts = {
  help: { label: 'Help', keys: '?', about: 'What can be done here, the keys, and the words' },
  guide: { label: 'Show me round', about: 'The six questions that are answered here, in a minute' },
  commands: {
    label: 'Find a command',
    keys: 'mod+/',
    about: 'Find any act, room, version or document by typing',
  },

  shelf: { label: 'To the shelf', about: 'All documents' },
  arrivals: { label: 'Arrivals', about: 'Files that came from outside and wait to be imported' },
  bin: { label: 'Bin', about: 'Documents that were put away' },
  account: { label: 'Your account and settings', about: 'Look, mail, keys, name and password' },
  people: { label: 'People', about: 'Invite people, and say who belongs here' },
  signOut: { label: 'Sign out', about: 'Sign out of this browser' },
  newDocument: { label: 'New document', about: 'Make a blank document' },
  newCollection: { label: 'New collection', about: 'Make a collection of documents' },
  importFile: { label: 'Import a file', about: 'Make a document from a file' },

  undo: { label: 'Undo', icon: 'undo', keys: 'mod+z', about: 'Undo your own last change' },
  redo: { label: 'Redo', icon: 'redo', keys: 'mod+y', about: 'Do again what you undid' },
  findHere: { label: 'Find and replace', keys: 'mod+f', about: 'Words on the page as it is now' },
  link: {
    label: 'Link …',
    icon: 'link',
    keys: 'mod+k',
    about: 'Make a link of the selected text, or change the one the caret is in',
  },
  outline: {
    label: 'Outline',
    keys: 'alt+o',
    about: 'Headings, how long each section is, and what changed in it',
  },
  ...WRITING_ACTS,

  share: { label: 'Share …', about: 'Who has this document, and how' },
  keeping: {
    label: 'Keeping and erasing …',
    about: 'How long versions are kept, which were discarded, and what was erased',
  },
  erase: {
    label: 'Erase the selection …',
    about: 'Erase the selected text or image for good, from all of the history',
  },
  print: { label: 'Print …', about: 'Print the page as it is now' },
  keepVersion: { label: 'Keep a version now', about: 'Make this moment a version' },
  log: { label: 'Log', about: 'The history as a table' },
  fold: { label: 'Fold the tideline', about: 'Fold the tideline away, or unfold it' },
  ledger: { label: 'Who wrote what', keys: 'alt+w', about: 'Who put each passage there, and when' },
  toTideline: {
    label: 'Go to the tideline',
    keys: 'alt+t',
    about: 'Move along the history with the arrow keys',
  },

  compare: { label: 'Compare …', keys: 'c', about: 'Compare two versions, or a file' },
  find: { label: 'Find in time', keys: 'f', about: 'Words in every moment of this document' },
  removed: { label: 'Removed', keys: 'r', about: 'Passages that have left this document' },
  contributors: { label: 'Contributors', about: 'Who wrote how much, and when' },
  play: { label: 'Play back', keys: 'p', about: 'Watch it being written' },
  nameMoment: { label: 'Name this moment', keys: 'n', about: 'Make the picked moment a landmark, or now' },

  backToNow: { label: 'Back to now', keys: 'escape', about: 'Leave the past, at the same place in the text' },
  leaveRoom: { label: 'Back to the page', keys: 'escape', about: 'Leave this room' },
  discard: {
    label: 'Discard this version',
    about: 'Put the picked version out of sight for everybody but owners',
  },
  nextChange: { label: 'Next change', keys: 'j', about: 'Go to the next change' },
  previousChange: { label: 'Previous change', keys: 'k', about: 'Go to the previous change' },
  marks: { label: 'Show or hide the marks', keys: 'm', about: 'Read the text without its marks' },
  assemble: { label: 'Assemble', keys: 'a', about: 'Decide change by change' },
  carry: { label: 'Carry forward', keys: 'b', about: 'Bring a passage of this moment into the present' },
  goToChange: { label: 'Go to where this was changed', keys: 'g', about: 'The moment of the current change' },
  life: { label: 'Passage life', keys: 'l', about: 'All forms of the passage of the current change' },
  takeEarlier: { label: 'Take the earlier', keys: '1', about: 'Decide for the earlier form' },
  takeBoth: { label: 'Take both', keys: '2', about: 'Decide for both forms' },
  takeLater: { label: 'Take the later', keys: '3', about: 'Decide for the later form' },
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
    escape: 'Esc',
  };
  return keys
    .split('+')
    .map((key) => names[key] ?? key.toUpperCase())
    .join('+');
}
