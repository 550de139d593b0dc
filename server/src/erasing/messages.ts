import { readFile, readdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FormatError } from '@oxbow/core/formats';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { idOfLetter } from '../mail/letters.js';
import type { Files } from '../formats/files.js';
import type { ReadLetter } from '../formats/file-task.js';
import { erasedWords } from './holdings.js';

/** The folders of messages: what came in, and what went out. */
const BOXES = ['inbox', 'outbox', 'sent'] as const;

/** What stands in place of a file, or of words, that quoted what was erased. */
const GONE = 'This was erased.\n';

/** A message that holds what is erased, and how often: it was sent from here if its box says so. */
export interface HeldMessage {
  /** Its name, with the box it lies in. */
  readonly name: string;
  readonly sent: boolean;
  /** The addresses of who wrote it and whom it is to. */
  readonly addresses: readonly string[];
  /** What of it goes whole: its files, since it quotes a moment that shows it, perhaps in part; or all of it, where nobody knows what it says. */
  readonly whole: 'files' | 'all';
}

/**
 * Messages that the log ties to what is erased. No other message is read: that somebody wrote the same words in a letter makes it nobody
 * else's to erase.
 */
export interface MessagesSought {
  readonly texts: readonly string[];
  /** Names of messages that went out from here with a moment that shows it. */
  readonly posted: ReadonlySet<string>;
  /** Names of messages with a file by which it came. They are touched only where each of `everybody` whom they are to is one of `owners`. */
  readonly arrived: ReadonlySet<string>;
  /** Addresses of everybody here, and of those who may erase in the documents. */
  readonly everybody: ReadonlySet<string>;
  readonly owners: ReadonlySet<string>;
}

/** Messages that the log ties to documents, and the files they carry. */
export class Messages {
  constructor(
    private readonly folder: string,
    private readonly files: Files,
  ) {}

  /** The name of the message that came in under an id; empty where it is gone. */
  async nameOf(id: string): Promise<string> {
    const names = await namesIn(join(this.folder, 'inbox'));
    return names.find((name) => idOfLetter(name) === id) ?? '';
  }

  /** Messages that hold what is sought, and how many were read. */
  async look({
    posted,
    arrived,
    everybody,
    owners,
  }: MessagesSought): Promise<{ held: HeldMessage[]; read: number }> {
    const held: HeldMessage[] = [];
    let read = 0;
    for (const box of BOXES)
      for (const name of new Set([...posted, ...(box === 'inbox' ? arrived : [])])) {
        const bytes = await readFile(join(this.folder, box, name)).catch(absent);
        const letter = bytes && (await readable(this.files.letter(bytes)));
        if (!letter) continue;
        const isOthers = letter.to.some(({ address }) => everybody.has(address) && !owners.has(address));
        if (!posted.has(name) && isOthers) continue;
        read++;
        if (!isGone(letter)) held.push(heldOf(`${box}/${name}`, letter, 'files'));
      }
    return { held, read };
  }

  /** Those of some messages that are there and hold something still, as they quoted it. */
  async there(names: readonly string[]): Promise<HeldMessage[]> {
    const out: HeldMessage[] = [];
    for (const name of new Set(names)) {
      const bytes = await readFile(join(this.folder, name)).catch(absent);
      const letter = bytes && (await readable(this.files.letter(bytes)));
      if (letter && !isGone(letter)) out.push(heldOf(name, letter, 'all'));
    }
    return out;
  }

  /** Erases what was found in messages: all their files, or where they have none their text. */
  async erase(held: readonly HeldMessage[], texts: readonly string[]): Promise<void> {
    for (const { name, whole } of held) {
      const path = join(this.folder, name);
      const letter = await this.files.letter(await readFile(path));
      const message = await this.without(letter, texts, whole);
      await writeFile(`${path}.erased`, message);
      await rename(`${path}.erased`, path);
    }
  }

  private async without(
    letter: ReadLetter,
    texts: readonly string[],
    whole: HeldMessage['whole'],
  ): Promise<Buffer> {
    const attachments = letter.files.map(() => ({ filename: 'erased.txt', content: Buffer.from(GONE) }));
    const hasText = whole === 'files' && letter.files.length > 0;
    const draft = {
      from: letter.from,
      to: letter.to.map(({ name, address }) => ({ name, address })),
      subject: whole === 'all' ? 'Erased' : erasedWords(letter.subject, texts),
      date: new Date(letter.at),
      text: hasText ? erasedWords(letter.text, texts) : GONE,
      messageId: '<erased@oxbow-tide.invalid>',
      // Not told by the types: what parts are told apart by, the same in every copy of the message.
      baseBoundary: 'erased',
      attachments,
    };
    const composer = new MailComposer(draft);
    return new Promise((resolve, reject) =>
      composer.compile().build((error, built) => (error ? reject(error) : resolve(built))),
    );
  }
}

function heldOf(name: string, { from, to }: ReadLetter, whole: HeldMessage['whole']): HeldMessage {
  return {
    name,
    sent: !name.startsWith('inbox/'),
    addresses: [from, ...to].map(({ address }) => address),
    whole,
  };
}

/** Whether nothing of a message that quoted something is left. */
function isGone({ files, text }: ReadLetter): boolean {
  if (files.length === 0) return text.trim() === GONE.trim();
  return files.every(({ bytes }) => Buffer.from(bytes).toString() === GONE);
}

/** What was read, or null where a file is none of its kind. */
function readable<T>(reading: Promise<T>): Promise<T | null> {
  return reading.catch((error: unknown) => {
    if (error instanceof FormatError) return null;
    throw error;
  });
}

/** Answers null where there is no such file or folder. */
function absent(error: NodeJS.ErrnoException): null {
  if (error.code === 'ENOENT') return null;
  throw error;
}

async function namesIn(folder: string): Promise<string[]> {
  const names = (await readdir(folder).catch(absent)) ?? [];
  return names.filter((name) => name.endsWith('.eml'));
}
