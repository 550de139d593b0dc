import { Attempts } from '../access/attempts.js';
import type { People, Signed } from '../access/people.js';
import type { Notices } from '../past/notices.js';
import type { Database } from '../store/database.js';

/** Asking the owners of a document for it, by whoever does not have it. */
export class Asking {
  private readonly attempts = new Attempts();

  /** `report` hears of trouble that nobody waits for. */
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly notices: Notices,
    private readonly report: (error: unknown) => void,
  ) {}

  /**
   * Asks for a document. What is answered and how long it takes is the same where there is no such document. Throws `TooMany` for whoever
   * asks again and again.
   */
  async ask(id: string, person: Signed, message: string, address: string): Promise<void> {
    await this.attempts.begin({ account: person.id, address });
    void this.tellOwners(id, person, message.trim()).catch(this.report);
  }

  /** Somebody has a document now: nobody is asked for it any more. */
  async answered(document: number, person: number): Promise<void> {
    await this.notices.unsayAsked(document, askedBy(person));
  }

  private async tellOwners(id: string, person: Signed, message: string): Promise<void> {
    const row = await this.database.models.documents.findOne({ where: { id, binned: 0 }, raw: true });
    if (!row || (await this.people.standings.read(id, person.key))) return;
    const owners = await this.database.rows<{ person: number }>(
      `SELECT person FROM standings WHERE document = :document AND role = 'owner'`,
      { document: row.key },
    );
    for (const { person: owner } of owners)
      await this.notices.tell(row.key, owner, askedBy(person.key), 'asked', [{ seq: 0, at: Date.now() }], {
        by: [person.id],
        text: message,
        words: 0,
        undo: [],
      });
  }
}

/** What stands for the watch of a notice that somebody asks for a document. */
function askedBy(person: number): string {
  return `asked by ${person}`;
}
