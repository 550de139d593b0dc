import type {
  CreationOptional,
  InferAttributes,
  InferCreationAttributes,
  Model,
  ModelStatic,
  Sequelize,
} from 'sequelize';
import { DataTypes } from 'sequelize';

/** Rows as they are stored. `key` is the database's own number for a row, `id` the opaque name the outside knows. */
interface Row<T extends Row<T>> extends Model<InferAttributes<T>, InferCreationAttributes<T>> {}

export interface PersonRow extends Row<PersonRow> {
  key: CreationOptional<number>;
  id: string;
  name: string;
  email: string;
  initials: string;
  colour: number;
  about: string;
  password: string;
}
/**
 * Somebody whom an archive or a message names in a document, under the id and address that it gives; `vouched` is who an owner,
 * `by`, said that it is.
 */
export interface ClaimRow extends Row<ClaimRow> {
  person: number;
  document: number;
  says: string;
  address: string;
  vouched: number | null;
  by: number | null;
  at: number;
}
export interface SessionRow extends Row<SessionRow> {
  token: string;
  person: number;
  until: number;
}
export interface CollectionRow extends Row<CollectionRow> {
  id: string;
  name: string;
  position: number;
}
export interface DocumentRow extends Row<DocumentRow> {
  key: CreationOptional<number>;
  id: string;
  kind: string;
  title: string;
  collection: string | null;
  seq: number;
  createdAt: number;
  changedAt: number;
  changedBy: number;
}
/** A document's row as plain values. */
export type StoredDocument = InferAttributes<DocumentRow>;
export interface ShareRow extends Row<ShareRow> {
  document: number;
  person: number;
  role: string;
}
export interface CheckOutRow extends Row<CheckOutRow> {
  document: number;
  person: number | null;
  since: number;
  seq: number;
}
/** What came in a file that an edit filed, beside its text, as JSON. */
export interface FilingRow extends Row<FilingRow> {
  document: number;
  seq: number;
  told: string;
}
/** What became of a file of a message for a person; `file` -1 says that the message was put away. */
export interface ArrivalRow extends Row<ArrivalRow> {
  person: number;
  letter: string;
  file: number;
  document: number;
  seq: number;
}
/** Salts and digests of the edits `first` to `last`, 48 bytes each; see `Seals`. */
export interface SealRow extends Row<SealRow> {
  document: number;
  first: number;
  last: number;
  data: Buffer;
}
export interface EditRow extends Row<EditRow> {
  key: CreationOptional<number>;
  document: number;
  seq: number;
  author: number;
  client: string;
  counter: number;
  acceptedAt: number;
  writtenAt: number;
  schema: number;
  steps: string;
  sources: string | null;
  cause: string | null;
  wordsIn: number;
  wordsOut: number;
}
export interface CheckpointRow extends Row<CheckpointRow> {
  document: number;
  seq: number;
  /** The seq of the whole checkpoint that this one is a delta to, through those between; its own where it is whole. */
  whole: number;
  data: Buffer;
}
export interface ProvenanceRow extends Row<ProvenanceRow> {
  document: number;
  seq: number;
  runs: Buffer;
  forms: Buffer;
}
export interface VersionRow extends Row<VersionRow> {
  document: number;
  number: number;
  label: string;
  seq: number;
  at: number;
  cause: string;
  authors: string;
  comment: string;
  gist: string;
  size: number;
  wordsAdded: number;
  wordsRemoved: number;
}
export interface PastCommentRow extends Row<PastCommentRow> {
  key: CreationOptional<number>;
  document: number;
  number: number;
  at: number;
  person: number;
  comment: string;
}
/** A name on a moment, from `at` until `until`; 0 while it is there. A landmark renamed keeps its id in a new row. */
export interface LandmarkRow extends Row<LandmarkRow> {
  key: CreationOptional<number>;
  id: string;
  document: number;
  seq: number;
  name: string;
  note: string;
  person: number;
  at: number;
  until: number;
}
/** What the edits of a chunk of a log inserted, packed; see `Chronicles`. */
export interface LettersRow extends Row<LettersRow> {
  document: number;
  chunk: number;
  last: number;
  texts: Buffer;
}
/** The sittings of a document up to edit `seq`, packed; see `Gauges`. */
export interface GaugeRow extends Row<GaugeRow> {
  document: number;
  seq: number;
  sittings: Buffer;
}
export interface LookRow extends Row<LookRow> {
  document: number;
  person: number;
  seq: number;
  at: number;
  upTo: number;
  seen: string;
}
/** `passage` is null for a whole document; else a stretch of instances of it, by which it is found again. */
export interface WatchRow extends Row<WatchRow> {
  id: string;
  document: number;
  person: number;
  passage: string | null;
  since: number;
}
export interface NoticeRow extends Row<NoticeRow> {
  id: string;
  document: number;
  person: number;
  /** The watch it comes from; empty for text that was lost. */
  watch: string;
  kind: string;
  first: number;
  last: number;
  at: number;
  told: string;
}
export interface ImageRow extends Row<ImageRow> {
  hash: string;
  type: string;
  data: Buffer;
}
export interface DocumentImageRow extends Row<DocumentImageRow> {
  document: number;
  hash: string;
}

/** What is known of the data as a whole, by name. */
export interface FactRow extends Row<FactRow> {
  name: string;
  value: string;
}

export interface Models {
  readonly people: ModelStatic<PersonRow>;
  readonly claims: ModelStatic<ClaimRow>;
  readonly sessions: ModelStatic<SessionRow>;
  readonly collections: ModelStatic<CollectionRow>;
  readonly documents: ModelStatic<DocumentRow>;
  readonly shares: ModelStatic<ShareRow>;
  readonly checkOuts: ModelStatic<CheckOutRow>;
  readonly filings: ModelStatic<FilingRow>;
  readonly arrivals: ModelStatic<ArrivalRow>;
  readonly seals: ModelStatic<SealRow>;
  readonly edits: ModelStatic<EditRow>;
  readonly checkpoints: ModelStatic<CheckpointRow>;
  readonly provenance: ModelStatic<ProvenanceRow>;
  readonly versions: ModelStatic<VersionRow>;
  readonly pastComments: ModelStatic<PastCommentRow>;
  readonly landmarks: ModelStatic<LandmarkRow>;
  readonly letters: ModelStatic<LettersRow>;
  readonly gauges: ModelStatic<GaugeRow>;
  readonly looks: ModelStatic<LookRow>;
  readonly watches: ModelStatic<WatchRow>;
  readonly notices: ModelStatic<NoticeRow>;
  readonly images: ModelStatic<ImageRow>;
  readonly documentImages: ModelStatic<DocumentImageRow>;
  readonly facts: ModelStatic<FactRow>;
}

const { STRING, TEXT, INTEGER, BIGINT, BLOB } = DataTypes;
// Sequelize writes into the attributes it is given, so each column gets an object of its own.
const number = () => ({ type: INTEGER, primaryKey: true, autoIncrement: true });
const part = () => ({ type: INTEGER, primaryKey: true });
const name = () => ({ type: STRING, primaryKey: true });

/** Defines the models on a connection; columns are those of the migrations. */
export function defineModels(sequelize: Sequelize): Models {
  const options = (tableName: string) => ({ tableName, timestamps: false });
  return {
    people: sequelize.define<PersonRow>(
      'person',
      {
        key: number(),
        id: STRING,
        name: STRING,
        email: STRING,
        initials: STRING,
        colour: INTEGER,
        about: STRING,
        password: STRING,
      },
      options('people'),
    ),
    claims: sequelize.define<ClaimRow>(
      'claim',
      {
        person: part(),
        document: INTEGER,
        says: STRING,
        address: STRING,
        vouched: INTEGER,
        by: INTEGER,
        at: BIGINT,
      },
      options('claims'),
    ),
    sessions: sequelize.define<SessionRow>(
      'session',
      { token: name(), person: INTEGER, until: BIGINT },
      options('sessions'),
    ),
    collections: sequelize.define<CollectionRow>(
      'collection',
      { id: name(), name: STRING, position: INTEGER },
      options('collections'),
    ),
    documents: sequelize.define<DocumentRow>(
      'document',
      {
        key: number(),
        id: STRING,
        kind: STRING,
        title: STRING,
        collection: STRING,
        seq: INTEGER,
        createdAt: BIGINT,
        changedAt: BIGINT,
        changedBy: INTEGER,
      },
      options('documents'),
    ),
    shares: sequelize.define<ShareRow>(
      'share',
      { document: part(), person: part(), role: STRING },
      options('shares'),
    ),
    checkOuts: sequelize.define<CheckOutRow>(
      'checkOut',
      { document: part(), person: INTEGER, since: BIGINT, seq: INTEGER },
      options('checkOuts'),
    ),
    filings: sequelize.define<FilingRow>(
      'filing',
      { document: part(), seq: part(), told: TEXT },
      options('filings'),
    ),
    arrivals: sequelize.define<ArrivalRow>(
      'arrival',
      {
        person: part(),
        letter: { type: STRING, primaryKey: true },
        file: part(),
        document: INTEGER,
        seq: INTEGER,
      },
      options('arrivals'),
    ),
    seals: sequelize.define<SealRow>(
      'seal',
      { document: part(), first: part(), last: INTEGER, data: BLOB },
      options('seals'),
    ),
    edits: sequelize.define<EditRow>(
      'edit',
      {
        key: number(),
        document: INTEGER,
        seq: INTEGER,
        author: INTEGER,
        client: STRING,
        counter: INTEGER,
        acceptedAt: BIGINT,
        writtenAt: BIGINT,
        schema: INTEGER,
        steps: TEXT,
        sources: TEXT,
        cause: TEXT,
        wordsIn: INTEGER,
        wordsOut: INTEGER,
      },
      options('edits'),
    ),
    checkpoints: sequelize.define<CheckpointRow>(
      'checkpoint',
      { document: part(), seq: part(), whole: INTEGER, data: BLOB },
      options('checkpoints'),
    ),
    provenance: sequelize.define<ProvenanceRow>(
      'provenance',
      { document: part(), seq: INTEGER, runs: BLOB, forms: BLOB },
      options('provenance'),
    ),
    versions: sequelize.define<VersionRow>(
      'version',
      {
        document: part(),
        number: part(),
        label: STRING,
        seq: INTEGER,
        at: BIGINT,
        cause: STRING,
        authors: TEXT,
        comment: TEXT,
        gist: TEXT,
        size: INTEGER,
        wordsAdded: INTEGER,
        wordsRemoved: INTEGER,
      },
      options('versions'),
    ),
    pastComments: sequelize.define<PastCommentRow>(
      'pastComment',
      { key: number(), document: INTEGER, number: INTEGER, at: BIGINT, person: INTEGER, comment: TEXT },
      options('pastComments'),
    ),
    landmarks: sequelize.define<LandmarkRow>(
      'landmark',
      {
        key: number(),
        id: STRING,
        document: INTEGER,
        seq: INTEGER,
        name: STRING,
        note: TEXT,
        person: INTEGER,
        at: BIGINT,
        until: BIGINT,
      },
      options('landmarks'),
    ),
    letters: sequelize.define<LettersRow>(
      'letters',
      { document: part(), chunk: part(), last: INTEGER, texts: BLOB },
      options('letters'),
    ),
    gauges: sequelize.define<GaugeRow>(
      'gauge',
      { document: part(), seq: INTEGER, sittings: BLOB },
      options('gauges'),
    ),
    looks: sequelize.define<LookRow>(
      'look',
      { document: part(), person: part(), seq: INTEGER, at: BIGINT, upTo: INTEGER, seen: TEXT },
      options('looks'),
    ),
    watches: sequelize.define<WatchRow>(
      'watch',
      { id: name(), document: INTEGER, person: INTEGER, passage: TEXT, since: INTEGER },
      options('watches'),
    ),
    notices: sequelize.define<NoticeRow>(
      'notice',
      {
        id: name(),
        document: INTEGER,
        person: INTEGER,
        watch: STRING,
        kind: STRING,
        first: INTEGER,
        last: INTEGER,
        at: BIGINT,
        told: TEXT,
      },
      options('notices'),
    ),
    images: sequelize.define<ImageRow>(
      'image',
      { hash: name(), type: STRING, data: BLOB('long') },
      options('images'),
    ),
    documentImages: sequelize.define<DocumentImageRow>(
      'documentImage',
      { document: part(), hash: name() },
      options('documentImages'),
    ),
    facts: sequelize.define<FactRow>('fact', { name: name(), value: TEXT }, options('facts')),
  };
}
