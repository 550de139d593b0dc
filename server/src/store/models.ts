import type { FindOptions, Sequelize } from 'sequelize';
import type { Columns, RowOf, Table } from './columns.js';
import { bytes, key, line, maybe, moment, part, text, whole } from './columns.js';

/**
 * The tables as they are now, each column once; how they came to be so is told by the migrations. `key` is the database's own
 * number for a row, `id` the opaque name the outside knows.
 */
const tables = {
  people: {
    key: key(),
    id: line(),
    name: line(),
    email: line(),
    initials: line(),
    colour: whole(),
    about: line(),
    password: line(),
    /** 1 for whoever invites people and lets them in and out; 1 for whoever is here only for what was shared with them. */
    admin: whole(),
    guest: whole(),
    /** When they were last kept from signing in; 0 for those who may. */
    disabled: moment(),
    /** How they want things, as JSON; what is not said is as it is for everybody. */
    preferences: text(),
    /** When their notices of a day were last mailed. */
    mailed: moment(),
  },
  /**
   * Somebody whom an archive or a message names in a document, under the id and address that it gives; `vouched` is who an owner,
   * `by`, said that it is.
   */
  claims: {
    person: part(whole()),
    document: whole(),
    says: line(),
    address: line(),
    vouched: maybe(whole()),
    by: maybe(whole()),
    at: moment(),
  },
  sessions: {
    token: part(line()),
    person: whole(),
    until: moment(),
    begun: moment(),
    /** When it was last used, to the hour. */
    seen: moment(),
    /** What the browser said of itself. */
    agent: line(),
  },
  /** Browsers that people have signed in with, by the digest of a token; see `Browsers`. */
  browsers: {
    token: part(line()),
    person: whole(),
    until: moment(),
  },
  /** Links that were sent, by the digest of what they carry: to join, or for `person` to set a new password. Once each. */
  invitations: {
    token: part(line()),
    id: line(),
    kind: line(),
    email: line(),
    person: maybe(whole()),
    by: maybe(whole()),
    guest: whole(),
    at: moment(),
    until: moment(),
    used: moment(),
  },
  collections: {
    id: part(line()),
    name: line(),
    position: whole(),
  },
  documents: {
    key: key(),
    id: line(),
    kind: line(),
    title: line(),
    collection: maybe(line()),
    seq: whole(),
    createdAt: moment(),
    changedAt: moment(),
    changedBy: whole(),
    /** When it was put in the bin; 0 where it is not, and less where it is being deleted for good. */
    binned: moment(),
  },
  groups: {
    key: key(),
    id: line(),
    name: line(),
  },
  groupMembers: {
    groupKey: part(whole()),
    person: part(whole()),
  },
  /** Where the history of a document that is shared with a group begins at the earliest for somebody who came to the group after that. */
  memberReaches: {
    groupKey: part(whole()),
    person: part(whole()),
    document: part(whole()),
    first: whole(),
    since: moment(),
  },
  /**
   * What is shared with whom: a document, or where that is 0 a collection, with a person, a group, whoever was invited at an
   * address, or where there is none of these everybody here. `since` is when it was shared. A share that ends by itself does at
   * `until`; 0 for one that does not. The views `holdings` and `standings` tell who has what through which of these.
   */
  shares: {
    key: key(),
    document: whole(),
    collection: line(),
    person: whole(),
    groupKey: whole(),
    email: line(),
    role: line(),
    history: line(),
    since: moment(),
    until: moment(),
    /** When they were last written to about it; 0 for never. */
    sent: moment(),
  },
  /** Where a document's history begins for those it is shared with, unless it is all: behind edit `first`, at the time `since`. */
  reaches: {
    share: part(whole()),
    document: part(whole()),
    first: whole(),
    since: moment(),
  },
  /** What happened to who has a document or a collection; `named` is what a group was called, `told` how they had it then, as JSON. */
  shareEvents: {
    key: key(),
    document: whole(),
    collection: line(),
    at: moment(),
    by: whole(),
    kind: line(),
    person: whole(),
    groupKey: whole(),
    email: line(),
    named: line(),
    told: text(),
  },
  /** Links by which anybody may read a document; one that `ended` holds no more. `password` is a hash, or empty; `frames` are origins as JSON. */
  readingLinks: {
    token: part(line()),
    id: line(),
    document: whole(),
    shows: line(),
    password: line(),
    until: moment(),
    frames: text(),
    at: moment(),
    by: whole(),
    visits: whole(),
    visited: moment(),
    ended: moment(),
  },
  /** Who owns documents, however they do; `ended` is when they stopped to, 0 while they do. */
  ownership: {
    document: part(whole()),
    person: part(whole()),
    ended: moment(),
  },
  /** The moment that a document began as: edit `seq` of document `other`, counted from the very beginning. */
  origins: {
    document: part(whole()),
    other: whole(),
    seq: whole(),
  },
  checkOuts: {
    document: part(whole()),
    person: maybe(whole()),
    since: moment(),
    seq: whole(),
  },
  /** What came in a file that an edit filed, beside its text, as JSON. */
  filings: {
    document: part(whole()),
    seq: part(whole()),
    told: text(),
  },
  /** What became of a file of a message for a person; `file` -1 says that the message was put away. */
  arrivals: {
    person: part(whole()),
    letter: part(line()),
    file: part(whole()),
    document: whole(),
    seq: whole(),
  },
  /** What a message that went out carried as a file: which moments of which documents. */
  posted: {
    letter: part(line()),
    document: part(whole()),
    seq: part(whole()),
  },
  /** Salts and digests of the edits `first` to `last`, 48 bytes each; see `Seals`. */
  seals: {
    document: part(whole()),
    first: part(whole()),
    last: whole(),
    data: bytes(),
  },
  edits: {
    key: key(),
    document: whole(),
    seq: whole(),
    author: whole(),
    client: line(),
    counter: whole(),
    acceptedAt: moment(),
    writtenAt: moment(),
    schema: whole(),
    steps: text(),
    sources: maybe(text()),
    /** What the writer said came back, where that is more than what keeps its credit, or is of another document; as JSON. */
    quoted: maybe(text()),
    cause: maybe(text()),
    wordsIn: whole(),
    wordsOut: whole(),
  },
  checkpoints: {
    document: part(whole()),
    seq: part(whole()),
    /** The seq of the whole checkpoint that this one is a delta to, through those between; its own where it is whole. */
    whole: whole(),
    data: bytes(),
  },
  provenance: {
    document: part(whole()),
    seq: whole(),
    runs: bytes(),
    forms: bytes(),
  },
  versions: {
    document: part(whole()),
    number: part(whole()),
    label: line(),
    seq: whole(),
    at: moment(),
    cause: line(),
    authors: text(),
    comment: text(),
    gist: text(),
    size: whole(),
    wordsAdded: whole(),
    wordsRemoved: whole(),
    /** When somebody, `discardedBy`, discarded it; 0 where nobody did. */
    discarded: moment(),
    discardedBy: whole(),
    /** When a rule thinned it out, and by which erasure; 0 where none did. */
    thinned: moment(),
    erasure: whole(),
  },
  /** How a document, or where that is 0 a collection, is kept, as JSON; by whom and when it was last said. */
  keepingRules: {
    document: part(whole()),
    collection: part(line()),
    rule: text(),
    by: whole(),
    at: moment(),
    /** The second owner who agreed that versions go by it; 0 while none did. */
    agreed: whole(),
  },
  /**
   * What was erased, or is being erased: on whose word, why, and how far it is (`state`). `covers` is, as JSON, what has to be erased
   * beside the instances in `erasedIn`, and what it is searched by; nothing is left there when it is done. `told` is the certificate.
   */
  erasures: {
    key: key(),
    id: line(),
    /** The document it was begun in. */
    document: whole(),
    kind: line(),
    state: line(),
    by: whole(),
    /** The second owner who agreed; 0 where none had to. */
    agreed: whole(),
    reason: text(),
    at: moment(),
    done: moment(),
    covers: text(),
    told: text(),
    /** The erasure that it was asked for beside, in another document; 0 for one that somebody began. */
    root: whole(),
    /** Who may agree, by number, as JSON: the owners of the document when it was asked. */
    owners: text(),
  },
  /** The instances of a document that an erasure takes, as JSON; the edit by which it tells of it, and what that came to there. */
  erasedIn: {
    erasure: part(whole()),
    document: part(whole()),
    seq: whole(),
    ranges: text(),
    told: text(),
  },
  pastComments: {
    key: key(),
    document: whole(),
    number: whole(),
    at: moment(),
    person: whole(),
    comment: text(),
  },
  /** A name on a moment, from `at` until `until`; 0 while it is there. A landmark renamed keeps its id in a new row. */
  landmarks: {
    key: key(),
    id: line(),
    document: whole(),
    seq: whole(),
    name: line(),
    note: text(),
    person: whole(),
    at: moment(),
    until: moment(),
  },
  /** What the edits of a chunk of a log inserted, packed; see `Chronicles`. */
  letters: {
    document: part(whole()),
    chunk: part(whole()),
    last: whole(),
    texts: bytes(),
  },
  /** The sittings of a document up to edit `seq`, packed; see `Gauges`. */
  gauges: {
    document: part(whole()),
    seq: whole(),
    sittings: bytes(),
  },
  looks: {
    document: part(whole()),
    person: part(whole()),
    seq: whole(),
    at: moment(),
    upTo: whole(),
    seen: text(),
  },
  /** `passage` is null for a whole document; else a stretch of instances of it, by which it is found again. */
  watches: {
    id: part(line()),
    document: whole(),
    person: whole(),
    passage: maybe(text()),
    since: whole(),
  },
  notices: {
    id: part(line()),
    document: whole(),
    person: whole(),
    /** The watch it comes from; empty for text that was lost. */
    watch: line(),
    kind: line(),
    first: whole(),
    last: whole(),
    at: moment(),
    told: text(),
    /** 1 once it was mailed. */
    mailed: whole(),
  },
  images: {
    hash: part(line()),
    type: line(),
    data: bytes(),
  },
  documentImages: {
    document: part(whole()),
    hash: part(line()),
  },
  /** What is known of the data as a whole, by name. */
  facts: {
    name: part(line()),
    value: text(),
  },
} satisfies Record<string, Columns>;

type Tables = typeof tables;

/** A row of a table as plain values. */
export type Stored<Name extends keyof Tables> = RowOf<Tables[Name]>;
export type StoredDocument = Stored<'documents'>;

/** The tables of a connection. */
export type Models = { readonly [Name in keyof Tables]: Table<Tables[Name]> };

/** Defines the tables on a connection. */
export function defineModels(sequelize: Sequelize): Models {
  // Where one row is asked for, one is read: Sequelize takes the first part of a key for all of it, and reads every version of a document.
  sequelize.addHook('beforeFind', (options: FindOptions & { readonly plain?: boolean }) => {
    if (options.plain) options.limit ??= 1;
  });
  const define = (tableName: string, columns: Columns) =>
    sequelize.define(tableName, copied(columns), { tableName, timestamps: false });
  return Object.fromEntries(
    Object.entries(tables).map(([name, columns]) => [name, define(name, columns)]),
  ) as unknown as Models;
}

/** The same columns as objects of their own: Sequelize writes into those it is given. */
function copied(columns: Columns): Columns {
  return Object.fromEntries(Object.entries(columns).map(([name, column]) => [name, { ...column }]));
}
