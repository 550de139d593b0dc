import { createHash } from 'node:crypto';
import { mkdir, readFile, readdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { LRUCache } from 'lru-cache';
import { nanoid } from 'nanoid';
import { createTransport } from 'nodemailer';
import type { Transporter } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { Files } from '../formats/files.js';
import type { ReadLetter } from '../formats/file-task.js';

/** Largest message read, in bytes. */
const MOST_BYTES = 40 * 2 ** 20;
/** Bytes of messages that are kept read. */
const CACHE = 64 * 2 ** 20;
const MOST_LETTERS = 500;

/** A message to be sent. */
export interface Draft {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly at: Date;
  readonly files: readonly { readonly name: string; readonly type: string; readonly bytes: Uint8Array }[];
}

/** How mail goes out. */
export interface Mailing {
  /** A mail server to send by, as an address (RFC 3986) with `smtp:` or `smtps:`; without one, mail goes to a folder. */
  readonly smtp?: string;
  /** The address that mail is from which nobody writes themselves. */
  readonly from?: string;
}

const OWN = 'oxbow-tide@localhost';

/** A message in a folder. */
export interface StoredLetter extends ReadLetter {
  /** Made from the name of its file, so it is the same for as long as the file is there. */
  readonly id: string;
  /** Whether it was sent from here, so that its sender is who it says. */
  readonly own: boolean;
}

/**
 * A stand-in for a mail server: two folders of messages (`.eml`, RFC 5322), one of what came in and one of what goes out.
 * Any program may put messages into the first and fetch them from the second. Where there is a mail server to send by, what goes
 * out is sent by it, and kept in a third folder.
 */
export class Letters {
  private readonly transport: Transporter | null;
  private readonly own: string;
  private readonly held = new LRUCache<string, StoredLetter>({
    maxSize: CACHE,
    sizeCalculation: ({ files }) => files.reduce((sum, { bytes }) => sum + bytes.length, 1000),
  });

  constructor(
    private readonly folder: string,
    private readonly files: Files,
    private readonly warn: (name: string, error: unknown) => void,
    { smtp, from = OWN }: Mailing = {},
  ) {
    this.transport = smtp === undefined ? null : createTransport(smtp);
    this.own = from;
  }

  /** Everything that came in, newest first. A message that cannot be read is passed over, and told to the log. */
  async arrived(): Promise<StoredLetter[]> {
    const inbox = join(this.folder, 'inbox');
    await mkdir(inbox, { recursive: true });
    const names = (await readdir(inbox)).filter((name) => name.endsWith('.eml')).slice(0, MOST_LETTERS);
    const letters: StoredLetter[] = [];
    for (const name of names) {
      try {
        letters.push(await this.read(join(inbox, name), name));
      } catch (error) {
        this.warn(name, error);
      }
    }
    return letters.sort((a, b) => b.at.localeCompare(a.at));
  }

  /** Writes a message to the folder of what goes out, of what came in, or to both; `named` is told first under which name. */
  async send(
    { from: writer, ...draft }: Draft,
    goes: 'out' | 'in' | 'both',
    named: (name: string) => Promise<void> = () => Promise.resolve(),
  ): Promise<ReadLetter> {
    const { files, at, ...head } = draft;
    const from = { name: writer.name, address: writer.address || this.own };
    const composer = new MailComposer({
      ...head,
      from,
      to: [...draft.to],
      date: at,
      messageId: `<${nanoid()}@oxbow-tide.invalid>`,
      attachments: files.map(({ name, type, bytes }) => ({
        filename: name,
        contentType: type,
        content: Buffer.from(bytes),
      })),
    });
    const message = await new Promise<Buffer>((resolve, reject) =>
      composer.compile().build((error, built) => (error ? reject(error) : resolve(built))),
    );
    const name = `${at.toISOString().replace(/\D/g, '')}-${nanoid(8)}.eml`;
    await named(name);
    if (goes !== 'in')
      await this.transport?.sendMail({
        envelope: { from: from.address, to: [...draft.to] },
        raw: message,
      });
    for (const [box, left] of [
      [this.transport ? 'sent' : 'outbox', 'in'],
      ['inbox', 'out'],
    ] as const) {
      if (goes === left) continue;
      await mkdir(join(this.folder, box), { recursive: true });
      await writeFile(join(this.folder, box, name), message);
    }
    return this.files.letter(message);
  }

  private async read(path: string, name: string): Promise<StoredLetter> {
    const { mtimeMs, size } = await stat(path);
    if (size > MOST_BYTES) throw new Error(`larger than ${MOST_BYTES} bytes`);
    const key = `${name} ${mtimeMs} ${size}`;
    const known = this.held.get(key);
    if (known) return known;
    const id = idOfLetter(name);
    const bytes = await readFile(path);
    const sent = await Promise.all(
      ['outbox', 'sent'].map((box) =>
        readFile(join(this.folder, box, name)).catch((error: NodeJS.ErrnoException) => {
          if (error.code !== 'ENOENT') throw error;
          return null;
        }),
      ),
    );
    const own = sent.some((copy) => copy?.equals(bytes));
    const letter = { ...(await this.files.letter(bytes)), id, own };
    this.held.set(key, letter);
    return letter;
  }
}

/** The id of a message, made from the name of its file. */
export function idOfLetter(name: string): string {
  return createHash('sha256').update(name).digest('base64url').slice(0, 20);
}
