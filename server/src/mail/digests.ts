import type { Notice } from '@oxbow/contract';
import type { People, Signed } from '../access/people.js';
import { preferencesOf } from '../access/preferences.js';
import { SITTING } from '../past/notices.js';
import type { Notices } from '../past/notices.js';
import type { Database } from '../store/database.js';
import type { Letters } from './letters.js';

const DAY = 24 * 3600_000;

/** Mails people their notices: each once its sitting is over, or those of a day together, as they want it. */
export class Digests {
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly notices: Notices,
    private readonly letters: Letters,
    private readonly site: () => string,
  ) {}

  /** From here on somebody gets mail: what they have notices of already is not mailed. */
  async begin({ key }: Signed): Promise<void> {
    await this.database.writes.add(async (transaction) => {
      const { notices, people } = this.database.models;
      await notices.update({ mailed: 1 }, { where: { person: key }, transaction });
      await people.update({ mailed: Date.now() }, { where: { key }, transaction });
    });
  }

  /** Mails what is due. */
  async sendDue(now: number): Promise<void> {
    for (const row of await this.database.models.people.findAll({ where: { disabled: 0 }, raw: true })) {
      const { mail } = preferencesOf(row);
      const person = this.people.byKey(row.key);
      if (mail === 'none' || !person || !row.email) continue;
      if (mail === 'daily' && now - Number(row.mailed) < DAY) continue;
      const due = await this.due(person, mail === 'each' ? now - SITTING : now);
      if (due.length === 0) continue;
      await this.send(row.email, due);
      await this.database.writes.add(async (transaction) => {
        const { notices, people } = this.database.models;
        await notices.update({ mailed: 1 }, { where: { id: due.map(({ id }) => id) }, transaction });
        await people.update({ mailed: now }, { where: { key: row.key }, transaction });
      });
    }
  }

  /** Notices of somebody that were not mailed yet and are done growing by a time; a question waits for nothing. */
  private async due(person: Signed, by: number): Promise<Notice[]> {
    const rows = await this.database.models.notices.findAll({
      where: { person: person.key, mailed: 0 },
      raw: true,
    });
    const waiting = new Set(
      rows
        .filter(({ at, kind }) => kind === 'asked' || kind === 'erasure' || Number(at) <= by)
        .map(({ id }) => id),
    );
    if (waiting.size === 0) return [];
    return (await this.notices.list(person)).filter(({ id }) => waiting.has(id));
  }

  private async send(to: string, due: readonly Notice[]): Promise<void> {
    const [first] = due;
    const subject = due.length === 1 && first ? this.said(first) : `${due.length} notices`;
    const lines = due.map(
      (notice) =>
        `${this.said(notice)}\n${notice.text ? `“${notice.text}”\n` : ''}${this.site()}/documents/${notice.document}`,
    );
    await this.letters.send(
      {
        from: { name: 'Oxbow Tide', address: '' },
        to: [to],
        subject,
        text: [...lines, `You choose what is mailed to you at ${this.site()}/account`].join('\n\n'),
        at: new Date(),
        files: [],
      },
      'out',
      (name) => this.note(name, due),
    );
  }

  /** Notes which moments a message quotes, so that it is found again when something of them is erased. */
  private async note(letter: string, due: readonly Notice[]): Promise<void> {
    const { notices, posted } = this.database.models;
    const quoted = await notices.findAll({ where: { id: due.map(({ id }) => id) }, raw: true });
    const rows = quoted.flatMap(({ document, first, last }) =>
      [Math.max(0, first - 1), last].map((seq) => ({ letter, document, seq })),
    );
    await this.database.writes.add((transaction) =>
      posted.bulkCreate(rows, { ignoreDuplicates: true, transaction }),
    );
  }

  private said({ kind, by, title, words }: Notice): string {
    const who = by.map((id) => this.people.byId(id)?.name ?? 'Somebody').join(', ');
    const deeds: Record<Notice['kind'], string> = {
      erasure: `asks you to agree to erasing something in “${title}”`,
      asked: `asks you to share “${title}”`,
      changed: `wrote or took out ${words === 1 ? '1 word' : `${words} words`} in “${title}”`,
      lost: `took out ${words === 1 ? '1 word' : `${words} words`} that you wrote in “${title}”`,
      passage: `changed a passage that you watch in “${title}”`,
    };
    return `${who} ${deeds[kind]}`;
  }
}
