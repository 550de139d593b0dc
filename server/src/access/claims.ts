import type { Claim } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Database } from '../store/database.js';
import type { View } from './view.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { People, Signed } from './people.js';

/** Whoever an archive or a message names, as it gives them. */
export interface Named {
  /** The id it gives; empty where it gives none. */
  readonly says: string;
  readonly name: string;
  readonly initials: string;
  readonly colour: number;
  /** The address it gives, in small letters; may be empty. */
  readonly address: string;
}

/**
 * What archives and messages claim about who wrote something. Whoever they name is somebody of their own in the document, told
 * as claimed, until an owner vouches for them: nobody is credited here for what a file says they did.
 */
export class Claims {
  constructor(
    private readonly database: Database,
    private readonly people: People,
  ) {}

  /** Somebody who is named in a document. The same claim, while nobody has vouched for it, is of the same person. */
  async person(document: number, named: Named): Promise<Signed> {
    const { says, name, initials, colour, address } = named;
    const held = await this.database.models.claims.findOne({
      where: { document, says, address, vouched: null },
      raw: true,
    });
    const known = held && this.people.byKey(held.person);
    if (known) return known;
    const person = await this.people.create({
      name,
      initials,
      colour,
      email: `${nanoid()}@nowhere.invalid`,
      about: 'is named by a file or a message',
      passwordHash: '',
    });
    const row = { person: person.key, document, says, address, vouched: null, by: null, at: Date.now() };
    await this.database.writes.add((transaction) => this.database.models.claims.create(row, { transaction }));
    await this.people.noteClaim(row);
    return this.people.byKey(person.key) ?? person;
  }

  /** Everybody whom files and messages name in a document, and who vouched for them. */
  async of(document: View): Promise<Claim[]> {
    const rows = await this.rows(document);
    return Promise.all(
      rows.map(async (row) => ({
        person: this.people.unvouchedId(row.person),
        name: this.people.givenName(row.person),
        address: row.address,
        like: (await this.like(row))?.id ?? null,
        vouched:
          row.by === null ? null : { by: this.people.id(row.by), at: new Date(Number(row.at)).toISOString() },
      })),
    );
  }

  /**
   * An owner's word that somebody named in a document is who they are said to be: the person here who has that address, or else
   * just somebody of that name. Throws 404, or 409 when it was said before.
   */
  async vouch(document: View, id: string, by: Signed): Promise<void> {
    const rows = await this.rows(document);
    const row = rows.find(({ person }) => this.people.unvouchedId(person) === id);
    if (!row) throw new Trouble(404, 'Nobody of that name is claimed in this document');
    if (row.by !== null) throw new Trouble(409, 'Somebody has vouched for them already');
    const vouched = (await this.like(row))?.key ?? row.person;
    const said = { ...row, vouched, by: by.key, at: Date.now() };
    await this.database.writes.add((transaction) =>
      this.database.models.claims.update(said, { where: { person: row.person }, transaction }),
    );
    await this.people.noteClaim(said);
  }

  /** The claims of a document about whoever wrote in what is told of it. */
  private rows({ key, first }: View): Promise<Stored<'claims'>[]> {
    return this.database.rows<Stored<'claims'>>(
      `SELECT * FROM claims WHERE document = :key AND (:first = 0 OR EXISTS
         (SELECT 1 FROM edits WHERE edits.document = :key AND edits.seq > :first AND edits.author = claims.person))
       ORDER BY person`,
      { key, first },
    );
  }

  /** The person here who has the address that a claim gives. */
  private async like({ address }: Pick<Stored<'claims'>, 'address'>): Promise<Signed | undefined> {
    return address ? (await this.people.addresses()).get(address) : undefined;
  }
}
