import type { QueryInterface } from 'sequelize';
import { DataTypes } from 'sequelize';
import { countsByDocument, ownersWhenAsked } from './migrating-erasures.js';
import { originsInLogs } from './migrating-origins.js';
import {
  claimsThatStay,
  collectionsOfOwners,
  eventsOfAnything,
  sharesOfAnything,
  viewsOf,
} from './migrating-shares.js';

type Migration = {
  readonly name: string;
  readonly up: (params: { context: QueryInterface }) => Promise<void>;
};

const id = { type: DataTypes.STRING(40), primaryKey: true };
const key = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };
const text = { type: DataTypes.TEXT, allowNull: false };
const line = { type: DataTypes.STRING, allowNull: false };
const whole = { type: DataTypes.INTEGER, allowNull: false };
const moment = { type: DataTypes.BIGINT, allowNull: false };
const person = { ...whole, references: { model: 'people', key: 'key' } };
const document = { ...whole, references: { model: 'documents', key: 'key' }, onDelete: 'CASCADE' };

/** Every change to the tables, in order. Never edited once it has landed. */
export const migrations: Migration[] = [
  {
    name: '001-first-tables',
    up: async ({ context: tables }) => {
      await tables.createTable('people', {
        key,
        id: { ...line, unique: true },
        name: line,
        email: { ...line, unique: true },
        initials: line,
        colour: whole,
        about: line,
        password: line,
      });
      await tables.createTable('sessions', {
        token: { type: DataTypes.STRING(64), primaryKey: true },
        person,
        until: moment,
      });
      await tables.createTable('collections', { id, name: line, position: whole });
      await tables.createTable('documents', {
        key,
        id: { ...line, unique: true },
        kind: line,
        title: line,
        collection: { type: DataTypes.STRING(40), references: { model: 'collections', key: 'id' } },
        seq: whole,
        createdAt: moment,
        changedAt: moment,
        changedBy: person,
      });
      await tables.createTable('shares', {
        document: { ...document, primaryKey: true },
        person: { ...person, primaryKey: true },
        role: line,
      });
      await tables.createTable('edits', {
        key,
        document,
        seq: whole,
        author: person,
        client: line,
        counter: whole,
        acceptedAt: moment,
        writtenAt: moment,
        schema: whole,
        steps: text,
        sources: { type: DataTypes.TEXT },
        cause: { type: DataTypes.TEXT },
        wordsIn: whole,
        wordsOut: whole,
      });
      await tables.addIndex('edits', ['document', 'seq'], { unique: true, name: 'edits_in_order' });
      await tables.addIndex('edits', ['document', 'client', 'counter'], { unique: true, name: 'edits_once' });
      await tables.createTable('checkpoints', {
        document: { ...document, primaryKey: true },
        seq: { ...whole, primaryKey: true },
        whole,
        data: { type: DataTypes.BLOB, allowNull: false },
      });
      await tables.createTable('provenance', {
        document: { ...document, primaryKey: true },
        seq: whole,
        runs: { type: DataTypes.BLOB, allowNull: false },
        forms: { type: DataTypes.BLOB, allowNull: false },
      });
      await tables.createTable('versions', {
        document: { ...document, primaryKey: true },
        number: { ...whole, primaryKey: true },
        label: line,
        seq: whole,
        at: moment,
        cause: line,
        authors: text,
        comment: text,
        gist: text,
        size: whole,
        wordsAdded: whole,
        wordsRemoved: whole,
      });
      await tables.addIndex('versions', ['document', 'seq'], { unique: true, name: 'versions_once' });
      await tables.createTable('images', {
        hash: { type: DataTypes.STRING(64), primaryKey: true },
        type: line,
        data: { type: DataTypes.BLOB('long'), allowNull: false },
      });
      await tables.createTable('documentImages', {
        document: { ...document, primaryKey: true },
        hash: { type: DataTypes.STRING(64), primaryKey: true, references: { model: 'images', key: 'hash' } },
      });
    },
  },
  {
    name: '002-names-and-comments',
    up: async ({ context: tables }) => {
      await tables.createTable('pastComments', {
        key,
        document,
        number: whole,
        at: moment,
        person,
        comment: text,
      });
      await tables.addIndex('pastComments', ['document', 'number'], { name: 'past_comments_of_version' });
      await tables.createTable('landmarks', {
        key,
        id: line,
        document,
        seq: whole,
        name: line,
        note: text,
        person,
        at: moment,
        until: moment,
      });
      await tables.addIndex('landmarks', ['document', 'until'], { name: 'landmarks_of_document' });
    },
  },
  {
    name: '003-looking-back',
    up: async ({ context: tables }) => {
      const blob = { type: DataTypes.BLOB, allowNull: false };
      await tables.createTable('letters', {
        document: { ...document, primaryKey: true },
        chunk: { ...whole, primaryKey: true },
        last: whole,
        texts: blob,
      });
      await tables.sequelize.query(
        tables.sequelize.getDialect() === 'sqlite'
          ? `CREATE VIRTUAL TABLE words USING fts5(begun, content='', contentless_delete=1, detail=none, tokenize='ascii')`
          : 'CREATE TABLE words (document integer, chunk integer, words tsvector NOT NULL, PRIMARY KEY (document, chunk))',
      );
      if (tables.sequelize.getDialect() === 'sqlite')
        await tables.sequelize.query(`INSERT INTO words(words, rank) VALUES('secure-delete', 1)`);
      else await tables.sequelize.query('CREATE INDEX words_by_word ON words USING gin (words)');
      await tables.createTable('looks', {
        document: { ...document, primaryKey: true },
        person: { ...person, primaryKey: true },
        seq: whole,
        at: moment,
        upTo: whole,
        seen: text,
      });
      await tables.createTable('watches', {
        id,
        document,
        person,
        passage: { type: DataTypes.TEXT },
        since: whole,
      });
      await tables.addIndex('watches', ['document'], { name: 'watches_of_document' });
      await tables.createTable('notices', {
        id,
        document,
        person,
        watch: line,
        kind: line,
        first: whole,
        last: whole,
        at: moment,
        told: text,
      });
      await tables.addIndex('notices', ['person'], { name: 'notices_of_person' });
    },
  },
  {
    name: '004-check-out',
    up: async ({ context: tables }) => {
      await tables.createTable('checkOuts', {
        document: { ...document, primaryKey: true },
        person: { ...person, allowNull: true },
        since: moment,
        seq: whole,
      });
    },
  },
  {
    name: '005-files-from-outside',
    up: async ({ context: tables }) => {
      await tables.createTable('filings', {
        document: { ...document, primaryKey: true },
        seq: { ...whole, primaryKey: true },
        told: text,
      });
      await tables.createTable('arrivals', {
        person: { ...person, primaryKey: true },
        letter: { ...line, primaryKey: true },
        file: { ...whole, primaryKey: true },
        document: whole,
        seq: whole,
      });
      await tables.createTable('seals', {
        document: { ...document, primaryKey: true },
        first: { ...whole, primaryKey: true },
        last: whole,
        data: { type: DataTypes.BLOB, allowNull: false },
      });
    },
  },
  {
    name: '006-provenance-with-hands',
    up: async ({ context: tables }) => {
      await tables.sequelize.query('DELETE FROM provenance');
    },
  },
  {
    name: '007-claims',
    up: async ({ context: tables }) => {
      await tables.createTable('claims', {
        person: { ...person, primaryKey: true },
        document,
        says: line,
        address: line,
        vouched: { ...person, allowNull: true },
        by: { ...person, allowNull: true },
        at: moment,
      });
      await tables.addIndex('claims', ['document'], { name: 'claims_in_document' });
    },
  },
  {
    name: '008-facts-and-password-form',
    up: async ({ context: tables }) => {
      await tables.createTable('facts', {
        name: { type: DataTypes.STRING(40), primaryKey: true },
        value: text,
      });
      const { sequelize } = tables;
      const [people] = (await sequelize.query('SELECT key, password FROM people')) as unknown as [
        { key: number; password: string }[],
      ];
      for (const { key: person, password } of people) {
        const [salt, hash] = password.split(':');
        if (hash === undefined) continue;
        const plain = `$scrypt$ln=16,r=8,p=2$${salt}$${hash}`.replace(/=+(?=\$|$)/g, '');
        await sequelize.query('UPDATE people SET password = :plain WHERE key = :person', {
          replacements: { plain, person },
        });
      }
    },
  },
  {
    name: '009-edits-move-heads',
    up: async ({ context: { sequelize } }) => {
      const move = `UPDATE documents SET seq = NEW.seq, "changedAt" = NEW."acceptedAt", "changedBy" = NEW.author
        WHERE key = NEW.document AND seq = NEW.seq - 1`;
      if (sequelize.getDialect() === 'sqlite') {
        await sequelize.query(`CREATE TRIGGER edits_move_heads BEFORE INSERT ON edits BEGIN
          SELECT RAISE(ABORT, 'head moved') WHERE NOT EXISTS
            (SELECT 1 FROM documents WHERE key = NEW.document AND seq = NEW.seq - 1);
          ${move};
        END`);
        return;
      }
      await sequelize.query(`CREATE FUNCTION move_head() RETURNS trigger AS $$
        BEGIN
          ${move};
          IF NOT FOUND THEN RAISE EXCEPTION 'head moved'; END IF;
          RETURN NEW;
        END $$ LANGUAGE plpgsql`);
      await sequelize.query(
        'CREATE TRIGGER edits_move_heads BEFORE INSERT ON edits FOR EACH ROW EXECUTE FUNCTION move_head()',
      );
    },
  },
  {
    name: '010-gauges',
    up: async ({ context: tables }) => {
      await tables.createTable('gauges', {
        document: { ...document, primaryKey: true },
        seq: whole,
        sittings: { type: DataTypes.BLOB, allowNull: false },
      });
    },
  },
  {
    name: '011-sessions-told',
    up: async ({ context: tables }) => {
      for (const column of ['begun', 'seen'])
        await tables.addColumn('sessions', column, { ...moment, defaultValue: 0 });
      await tables.addColumn('sessions', 'agent', { ...line, defaultValue: '' });
      const day = 24 * 3600_000;
      await tables.sequelize.query(
        `UPDATE sessions SET begun = until - ${30 * day}, seen = until - ${30 * day}`,
      );
    },
  },
  {
    name: '012-history-of-shares',
    up: async ({ context: tables }) => {
      await tables.addColumn('shares', 'history', { ...line, defaultValue: 'all' });
      await tables.addColumn('shares', 'first', { ...whole, defaultValue: 0 });
      for (const column of ['since', 'until'])
        await tables.addColumn('shares', column, { ...moment, defaultValue: 0 });
      await tables.addColumn('edits', 'quoted', { type: DataTypes.TEXT });
      await tables.sequelize.query(
        'CREATE VIEW standings AS SELECT document, person, role, history, first, since, until FROM shares',
      );
    },
  },
  {
    name: '013-membership',
    up: async ({ context: tables }) => {
      for (const column of ['admin', 'guest'])
        await tables.addColumn('people', column, { ...whole, defaultValue: 0 });
      await tables.addColumn('people', 'disabled', { ...moment, defaultValue: 0 });
      await tables.sequelize.query(
        `UPDATE people SET admin = 1 WHERE key = (SELECT MIN(key) FROM people WHERE password <> '')`,
      );
      await tables.createTable('invitations', {
        token: { type: DataTypes.STRING(64), primaryKey: true },
        id: { ...line, unique: true },
        kind: line,
        email: line,
        person: { type: DataTypes.INTEGER },
        by: { type: DataTypes.INTEGER },
        guest: whole,
        at: moment,
        until: moment,
        used: moment,
      });
    },
  },
  {
    name: '014-sharing',
    up: async ({ context: tables }) => {
      await tables.createTable('pendingShares', {
        email: { ...line, primaryKey: true },
        document: { ...document, primaryKey: true },
        role: line,
        history: line,
        first: whole,
        since: moment,
        until: moment,
        sent: moment,
      });
      await tables.createTable('shareEvents', {
        key,
        document,
        at: moment,
        by: whole,
        kind: line,
        person: { type: DataTypes.INTEGER },
        email: line,
        told: text,
      });
      await tables.addIndex('shareEvents', ['document', 'key']);
    },
  },
  {
    name: '015-groups-and-collections',
    up: async ({ context: tables }) => {
      await tables.createTable('groups', { key, id: { ...line, unique: true }, name: line });
      await tables.createTable('groupMembers', {
        groupKey: { ...whole, primaryKey: true, references: { model: 'groups', key: 'key' } },
        person: { ...person, primaryKey: true },
      });
      await tables.addIndex('groupMembers', ['person']);
      await tables.addColumn('documents', 'binned', { ...moment, defaultValue: 0 });
      await tables.addIndex('documents', ['collection']);
      await claimsThatStay(tables);
      await sharesOfAnything(tables);
      await eventsOfAnything(tables);
      await collectionsOfOwners(tables);
    },
  },
  {
    name: '016-reading-links',
    up: async ({ context: tables }) => {
      await tables.createTable('readingLinks', {
        token: { type: DataTypes.STRING(64), primaryKey: true },
        id: { ...line, unique: true },
        document,
        shows: line,
        password: line,
        until: moment,
        frames: text,
        at: moment,
        by: whole,
        visits: whole,
        visited: moment,
        ended: moment,
      });
      await tables.addIndex('readingLinks', ['document', 'at']);
    },
  },
  {
    name: '017-bin-and-settings',
    up: async ({ context: tables }) => {
      await tables.addColumn('people', 'preferences', { ...text, defaultValue: '{}' });
      await tables.addColumn('people', 'mailed', { ...moment, defaultValue: 0 });
      await tables.addColumn('notices', 'mailed', { ...whole, defaultValue: 0 });
      await tables.addIndex('documents', ['binned']);
    },
  },
  {
    name: '018-keeping',
    up: async ({ context: tables }) => {
      for (const column of ['discarded', 'thinned'])
        await tables.addColumn('versions', column, { ...moment, defaultValue: 0 });
      for (const column of ['discardedBy', 'erasure'])
        await tables.addColumn('versions', column, { ...whole, defaultValue: 0 });
      await tables.createTable('keepingRules', {
        document: { ...whole, primaryKey: true },
        collection: { ...line, primaryKey: true },
        rule: text,
        by: whole,
        at: moment,
      });
      await tables.createTable('erasures', {
        key,
        id: { ...line, unique: true },
        document: whole,
        kind: line,
        state: line,
        by: whole,
        agreed: whole,
        reason: text,
        at: moment,
        done: moment,
        covers: text,
        told: text,
      });
      await tables.createTable('erasedIn', {
        erasure: {
          ...whole,
          primaryKey: true,
          references: { model: 'erasures', key: 'key' },
          onDelete: 'CASCADE',
        },
        document: { ...document, primaryKey: true },
        seq: whole,
        ranges: text,
        told: text,
      });
      await tables.addIndex('erasedIn', ['document']);
      await tables.createTable('posted', {
        letter: { ...line, primaryKey: true },
        document: { ...document, primaryKey: true },
        seq: { ...whole, primaryKey: true },
      });
      await tables.addIndex('posted', ['document']);
    },
  },
  {
    name: '019-erasing-by-rights',
    up: async ({ context: tables }) => {
      await tables.addColumn('erasures', 'root', { ...whole, defaultValue: 0 });
      await tables.addColumn('erasures', 'owners', { ...text, defaultValue: '[]' });
      await tables.addColumn('keepingRules', 'agreed', { ...whole, defaultValue: 0 });
      await tables.createTable('ownership', {
        document: { ...document, primaryKey: true },
        person: { ...person, primaryKey: true },
        ended: moment,
      });
      const { sequelize } = tables;
      await sequelize.query(
        `INSERT INTO ownership (document, person, ended) SELECT document, person, 0 FROM holdings WHERE role = 'owner'`,
      );
      await ownersWhenAsked(tables);
      await countsByDocument(tables);
    },
  },
  {
    name: '020-origins',
    up: async ({ context: tables }) => {
      await tables.createTable('origins', {
        document: { ...document, primaryKey: true },
        other: whole,
        seq: whole,
      });
      await originsInLogs(tables);
    },
  },
  {
    name: '021-browsers-and-members',
    up: async ({ context: tables }) => {
      await tables.createTable('browsers', {
        token: { type: DataTypes.STRING(64), primaryKey: true },
        person,
        until: moment,
      });
      await tables.createTable('memberReaches', {
        groupKey: { ...whole, primaryKey: true, references: { model: 'groups', key: 'key' } },
        person: { ...person, primaryKey: true },
        document: { ...document, primaryKey: true },
        first: whole,
        since: moment,
      });
      const { sequelize } = tables;
      for (const view of ['standings', 'holdings']) await sequelize.query(`DROP VIEW ${view}`);
      for (const sql of viewsOf(sequelize.getDialect(), true)) await sequelize.query(sql);
    },
  },
];
