import type { Group, GroupInput, GroupPatch } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import { QueryTypes } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { People } from './people.js';

/** Where the history of a document begins for somebody it is shared with: behind edit `first`. */
export type Begun = Pick<Stored<'reaches'>, 'document' | 'first'>;

/** Groups of people, with which documents and collections are shared as with one. */
export class Groups {
  private listener: (begun: readonly Begun[]) => Promise<void> = () => Promise.resolve();

  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  async list(): Promise<Group[]> {
    const { groups, groupMembers } = this.database.models;
    const [rows, members] = await Promise.all([
      groups.findAll({ order: [['name', 'ASC']], raw: true }),
      groupMembers.findAll({ raw: true }),
    ]);
    return rows.map(({ key, id, name }) => ({
      id,
      name,
      people: members.filter(({ groupKey }) => groupKey === key).map(({ person }) => this.people.id(person)),
    }));
  }

  /** Throws 422 where there is one of that name, or for people who are not here. */
  async create({ name, people = [] }: GroupInput): Promise<Group> {
    const row = { id: nanoid(12), name: name.trim() };
    await this.checkName(row.name);
    const members = people.map((one) => this.member(one));
    await this.database.writes.add(async (transaction) => {
      const { key } = await this.database.models.groups.create(row, { transaction });
      await this.put(key, members, transaction);
    });
    return { ...row, people };
  }

  /** Renames a group or says who is in it. Throws 404 and 422. */
  async change(id: string, { name, people }: GroupPatch): Promise<Group> {
    const { key } = await this.row(id);
    const { groups, groupMembers } = this.database.models;
    if (name !== undefined) await this.checkName(name.trim(), key);
    const members = people?.map((one) => this.member(one));
    const before = await this.members(key);
    const begun = await this.database.writes.add(async (transaction) => {
      if (name !== undefined) await groups.update({ name: name.trim() }, { where: { key }, transaction });
      if (members === undefined) return [];
      await groupMembers.destroy({ where: { groupKey: key }, transaction });
      await this.put(key, members, transaction);
      const come = members.filter((person) => !before.includes(person));
      const gone = before.filter((person) => !members.includes(person));
      return this.reachFrom(key, come, gone, transaction);
    });
    await this.listener(begun);
    if (members)
      await this.people.standings.changed({
        documents: await this.reached(key),
        people: [...new Set([...before, ...members])],
        collections: true,
      });
    return (await this.list()).find((group) => group.id === id) as Group;
  }

  /** Deletes a group; what was shared with it is not any more. */
  async remove(id: string): Promise<void> {
    const { key } = await this.row(id);
    const change = {
      documents: await this.reached(key),
      people: await this.members(key),
      collections: true,
    };
    const { groups, groupMembers, memberReaches, shares } = this.database.models;
    await this.database.writes.add(async (transaction) => {
      await shares.destroy({ where: { groupKey: key }, transaction });
      await groupMembers.destroy({ where: { groupKey: key }, transaction });
      await memberReaches.destroy({ where: { groupKey: key }, transaction });
      await groups.destroy({ where: { key }, transaction });
    });
    await this.people.standings.changed(change);
  }

  /** Calls `listener` with the documents, and the edits behind which their history begins for somebody who came to a group. */
  onBegun(listener: (begun: readonly Begun[]) => Promise<void>): void {
    this.listener = listener;
  }

  /**
   * Whoever comes to a group that has a document from a day on has it from today on. Of those who went nothing is kept. Answers where these
   * histories begin.
   */
  private async reachFrom(
    groupKey: number,
    come: readonly number[],
    gone: readonly number[],
    transaction: Transaction,
  ): Promise<Begun[]> {
    const { memberReaches } = this.database.models;
    await memberReaches.destroy({ where: { groupKey, person: [...gone] }, transaction });
    if (come.length === 0) return [];
    const rows = await this.database.sequelize.query<{ document: number; first: number }>(
      `SELECT DISTINCT documents.key AS document, documents.seq AS first FROM shares
       JOIN reaches ON reaches.share = shares.key JOIN documents ON documents.key = reaches.document
       WHERE shares."groupKey" = :groupKey AND shares.history <> 'all'`,
      { type: QueryTypes.SELECT, replacements: { groupKey }, transaction },
    );
    const since = Date.now();
    await memberReaches.bulkCreate(
      rows.flatMap((row) => come.map((person) => ({ ...row, groupKey, person, since }))),
      { transaction },
    );
    return rows;
  }

  async byId(id: string): Promise<Stored<'groups'> | null> {
    return this.database.models.groups.findOne({ where: { id }, raw: true });
  }

  /** Who is in a group, by number. */
  async members(groupKey: number): Promise<number[]> {
    const rows = await this.database.models.groupMembers.findAll({ where: { groupKey }, raw: true });
    return rows.map(({ person }) => person);
  }

  /** The documents that are shared with a group, by number. */
  private async reached(groupKey: number): Promise<number[]> {
    const rows = await this.database.rows<{ document: number }>(
      `SELECT document FROM shares WHERE "groupKey" = :groupKey AND document > 0
       UNION SELECT documents.key FROM shares JOIN documents ON documents.collection = shares.collection
       WHERE shares."groupKey" = :groupKey AND shares.document = 0`,
      { groupKey },
    );
    return rows.map(({ document }) => document);
  }

  private async put(groupKey: number, members: readonly number[], transaction: Transaction): Promise<void> {
    const rows = members.map((person) => ({ groupKey, person }));
    await this.database.models.groupMembers.bulkCreate(rows, { transaction });
  }

  private member(id: string): number {
    const person = this.people.members.find((one) => one.id === id);
    if (!person) throw Trouble.field('people', 'names somebody who is not here');
    return person.key;
  }

  private async checkName(name: string, but?: number): Promise<void> {
    const rows = await this.database.models.groups.findAll({ raw: true });
    const same = rows.find((row) => row.key !== but && row.name.toLowerCase() === name.toLowerCase());
    if (same) throw Trouble.field('name', 'is of another group already');
  }

  private async row(id: string): Promise<Stored<'groups'>> {
    const row = await this.byId(id);
    if (!row) throw new Trouble(404, 'There is no such group');
    return row;
  }
}
