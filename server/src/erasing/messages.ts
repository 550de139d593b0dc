import { readFile, readdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { plainText } from '@oxbow/core/content';
import { FormatError, READ_ENDINGS } from '@oxbow/core/formats';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { idOfLetter } from '../mail/letters.js';
import type { Files } from '../formats/files.js';
import type { ReadLetter } from '../formats/file-task.js';
import { erasedWords, timesIn } from './holdings.js';

/** The folders of messages: what came in, and what went out. */
const BOXES = ['inbox', 'outbox', 'sent'] as const;

/** What stands in place of a file, or of words, that quoted what was erased. */
const GONE = 'This was erased.\n';

/** A message that holds what is erased, and how often: it was sent from here if its box says so. */
export interface HeldMessage {
  /** Its name, with the box it lies in. */
  readonly name: string;
  readonly sent: boolean;
  readonly times: number;
  /** What of it goes whole: its files, since it quotes a moment that shows it, perhaps in part; all of it, where nobody knows what it says; or nothing. */
  readonly whole: 'files' | 'all' | 'nothing';
}

/** What is looked for in messages. */
export interface MessagesSought {
  /** Whose messages are looked at. */
  readonly addresses: ReadonlySet<string>;
  readonly texts: readonly string[];
  /** Names of messages that quote moments which show it. */
  readonly quoting: ReadonlySet<string>;
}

/** Words in messages and in the files they carry. */
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
  async look({ addresses, texts, quoting }: MessagesSought): Promise<{ held: HeldMessage[]; read: number }> {
    const held: HeldMessage[] = [];
    let read = 0;
    if (texts.length === 0 && quoting.size === 0) return { held, read };
    for (const box of BOXES) {
      for (const name of await namesIn(join(this.folder, box))) {
        const path = join(this.folder, box, name);
        const letter = await readable(this.files.letter(await readFile(path)));
        read++;
        if (!letter || ![letter.from, ...letter.to].some(({ address }) => addresses.has(address))) continue;
        const quotes = quoting.has(name) && !isGone(letter);
        const times = await this.timesIn(letter, texts);
        if (times > 0 || quotes)
          held.push({
            name: `${box}/${name}`,
            sent: box !== 'inbox',
            times,
            whole: quotes ? 'files' : 'nothing',
          });
      }
    }
    return { held, read };
  }

  /** Those of some messages that are there and hold something still, as they quoted it. */
  async there(names: readonly string[]): Promise<HeldMessage[]> {
    const out: HeldMessage[] = [];
    for (const name of new Set(names)) {
      const bytes = await readFile(join(this.folder, name)).catch(absent);
      const letter = bytes && (await readable(this.files.letter(bytes)));
      if (letter && !isGone(letter))
        out.push({ name, sent: !name.startsWith('inbox/'), times: 0, whole: 'all' });
    }
    return out;
  }

  /** Erases what was found in messages: words, and whole files that hold any, or all files of one that quotes. */
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
    const attachments: { filename: string; content: Buffer }[] = [];
    for (const { name, bytes } of letter.files)
      attachments.push(
        whole !== 'nothing' || (await this.timesInFile(name, bytes, texts)) > 0
          ? {
              filename: 'erased.txt',
              content: Buffer.from(GONE),
            }
          : { filename: name, content: Buffer.from(bytes) },
      );
    const hasText = whole === 'nothing' || (whole === 'files' && letter.files.length > 0);
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

  private async timesIn({ subject, text, files }: ReadLetter, texts: readonly string[]): Promise<number> {
    let times = timesIn(subject, texts) + timesIn(text, texts);
    for (const { name, bytes } of files) times += await this.timesInFile(name, bytes, texts);
    return times;
  }

  private async timesInFile(name: string, bytes: Uint8Array, texts: readonly string[]): Promise<number> {
    const isKnown = READ_ENDINGS.some((ending) => name.toLowerCase().endsWith(ending));
    const inName = timesIn(name, texts);
    if (!isKnown) return inName + timesIn(Buffer.from(bytes).toString('latin1'), texts);
    const reading = await readable(this.files.read(name, bytes));
    if (!reading) return inName + timesIn(Buffer.from(bytes).toString('utf8'), texts);
    const told = [
      plainText(reading.doc),
      reading.before ? plainText(reading.before) : '',
      ...reading.remarks.map(({ text, about }) => `${text}\n${about}`),
      ...reading.tracked.map(({ text }) => text),
    ];
    return inName + told.reduce((sum, text) => sum + timesIn(text, texts), 0);
  }
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
