import { createHash } from 'node:crypto';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import type { Cause } from '@oxbow/core/history';
import { Random, build, change, noisyPng } from '@oxbow/core/testing';
import { Fragment, Slice } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import type { Step } from 'prosemirror-transform';
import type { Signed } from '../access/people.js';
import { ownView, viewOf } from '../access/view.js';
import type { View } from '../access/view.js';
import type { App } from '../app.js';
import type { StoredDocument } from '../store/models.js';
import type { Wanted } from '../ordering/batch.js';

/** When the reader was given the document, in all worlds. */
export const SHARED = Date.parse('2026-11-01T10:00:00Z');
const MINUTE = 60_000;
/** A passage that somebody wrote and took out before, in some worlds. */
const LOST = 'heron over the sluice';

/** A picture that was in the text before, in some worlds. */
export const PICTURE = pictureOf(noisyPng(new Random(7), 8, 8));

/** A document whose history began for a reader at one moment, and what was done since. */
export interface World {
  readonly id: string;
  readonly key: number;
  readonly first: number;
}

/** Writes worlds: whatever was before, the same since. */
export class Worlds {
  constructor(
    private readonly app: App,
    private readonly writers: readonly Signed[],
  ) {}

  /** A world that came to a state in its own way, `before`, and went on from there as all of one `since` do. */
  async make(reader: Signed, before: number, since: number): Promise<World> {
    const { app } = this;
    const [owner] = this.writers as [Signed];
    const random = new Random(before);
    const own = await app.documents.create(owner, `Draft ${before}`, null, SHARED - 9000 * MINUTE - before);
    const lost = await this.past(own, random);
    const target = beginning(new Random(since));
    const now = (await app.rooms.get(own.key)).head.doc;
    await this.write(own, owner, SHARED - MINUTE, [
      new ReplaceStep(0, now.content.size, new Slice(target.content, 0, 0)),
    ]);
    await this.retitle(own, owner, 'A guide to the mill', SHARED - MINUTE);
    const { seq: first } = await (await app.rooms.get(own.key)).storedHead();
    const shared = { document: own.key, collection: '', person: owner.key };
    const whom = { person: reader.key, groupKey: 0, email: '' };
    const begun = [{ document: own.key, first }];
    await app.shares.set(shared, whom, { role: 'editor', history: 'since' }, begun);
    await app.database.writes.add((transaction) =>
      app.database.models.reaches.update({ since: SHARED }, { where: { document: own.key }, transaction }),
    );
    await app.versions.cut(own.key, first, { cause: 'share', at: SHARED });
    await this.since(own, reader, new Random(since + 1), first, lost);
    return { id: own.id, key: own.key, first };
  }

  /** What was before: writing, versions, names, pictures, files; answers whether a passage was lost. */
  private async past(own: View, random: Random): Promise<boolean> {
    const { app } = this;
    let at = SHARED - 9000 * MINUTE;
    const step = (): number => (at += random.between(1, 40) * MINUTE);
    const lost = random.chance(0.5);
    if (lost) {
      await this.write(own, this.writers[1] as Signed, step(), typed(1, LOST));
      await this.write(own, this.writers[0] as Signed, step(), [
        new ReplaceStep(1, 1 + LOST.length, Slice.empty),
      ]);
    }
    if (random.chance(0.5)) {
      await app.images.store(own.key, PICTURE.data);
      const image = schema.nodes.image.create({ hash: PICTURE.hash, alt: 'the wheel' });
      await this.write(own, random.pick(this.writers), step(), [
        new ReplaceStep(1, 1, new Slice(Fragment.from(image), 0, 0)),
      ]);
    }
    const count = random.between(1, 9);
    for (let i = 0; i < count; i++) {
      if (random.chance(0.2)) await this.file(own, step());
      const { doc, seq } = (await app.rooms.get(own.key)).head;
      const fresh = (length: number): string =>
        String.fromCharCode(0x61 + random.between(0, 25)).repeat(length);
      await this.write(own, random.pick(this.writers), step(), change(random, doc, fresh, true).steps);
      if (random.chance(0.3))
        await app.versions.cut(own.key, seq, {
          cause: 'asked',
          at,
          comment: `so far ${i}`,
          by: this.writers[0]?.key,
        });
      if (random.chance(0.3) && seq > 0)
        await app.landmarks
          .name(own, random.pick(this.writers), seq, { name: `Stage ${i}`, note: 'before' }, at)
          .catch(() => undefined);
      if (random.chance(0.2)) await this.retitle(own, random.pick(this.writers), `Title ${i}`, at);
    }
    return lost;
  }

  /** A file comes back from somebody outside, who is only named by it. */
  private async file(own: View, at: number): Promise<void> {
    const { app } = this;
    const named = {
      says: '',
      name: 'Petra Outside',
      initials: 'PO',
      colour: 3,
      address: 'petra@else.example',
    };
    const author = await app.claims.person(own.key, named);
    const text = Buffer.from(`# As it came back\n\nRead by Petra ${at}.`);
    const reading = await app.filing.read('petra.md', text);
    await app.filing.file(own, author, reading, { comment: 'from Petra', at });
  }

  /** What is done since, by everybody. */
  private async since(
    own: View,
    reader: Signed,
    random: Random,
    first: number,
    lost: boolean,
  ): Promise<void> {
    const { app } = this;
    let at = SHARED;
    let next = 0x4e00;
    const fresh = (length: number): string =>
      Array.from({ length }, () => String.fromCharCode(next++)).join('') + ' ';
    const step = (): number => (at += random.between(1, 30) * MINUTE);
    const everybody = [...this.writers, reader];
    for (let i = 0; i < 8; i++) {
      const { doc, seq } = (await app.rooms.get(own.key)).head;
      await this.write(own, random.pick(everybody), step(), change(random, doc, fresh, true).steps);
      if (random.chance(0.3)) await app.versions.cut(own.key, seq, { cause: 'pause', at });
    }
    await this.bringBack(own, lost, step());
    const { seq } = (await app.rooms.get(own.key)).head;
    await app.versions.cut(own.key, seq, {
      cause: 'asked',
      at: step(),
      comment: 'all so far',
      by: this.writers[0]?.key,
    });
    await app.landmarks.name(own, this.writers[0] as Signed, seq, { name: 'As agreed', note: 'by all' }, at);
    const view = await this.viewOf(own, reader, first);
    const restored = { kind: 'restore', moment: 3 } as const;
    const target = await app.rooms.histories.moment(view, 3);
    await app.becoming.become(
      view,
      reader,
      restored,
      async () => ({ target, from: [{ doc: target, seq: 3 }] }),
      { at: step() },
    );
    await this.retitle(own, this.writers[1] as Signed, 'The guide', step());
  }

  /** The lost passage comes back, where it was lost; elsewhere the same words are written anew. */
  private async bringBack(own: View, lost: boolean, at: number): Promise<void> {
    const sources = lost ? [{ step: 0, at: 0, length: LOST.length, seq: 1, offset: 0 }] : [];
    const { doc } = (await this.app.rooms.get(own.key)).head;
    const place = firstText(doc);
    await this.write(
      own,
      this.writers[0] as Signed,
      at,
      typed(place, LOST),
      sources,
      lost ? { kind: 'undo', of: [2] } : undefined,
    );
  }

  private async viewOf(own: View, reader: Signed, first: number): Promise<View> {
    const stand = { person: reader.key, role: 'editor', hold: 'free', history: 'since', first } as const;
    return viewOf(await this.row(own), { ...stand, since: SHARED });
  }

  private async retitle(own: View, who: Signed, title: string, at: number): Promise<void> {
    await this.app.documents.change(ownView(await this.row(own), own.person), who, { title }, at);
  }

  private async row({ key }: View): Promise<StoredDocument> {
    const row = await this.app.database.models.documents.findByPk(key, { raw: true });
    if (!row) throw new Error('The document is gone');
    return row;
  }

  private async write(
    own: View,
    who: Signed,
    at: number,
    steps: readonly Step[],
    sources: Wanted['sources'] = [],
    cause: Cause = { kind: 'writing' },
  ): Promise<void> {
    const { rooms } = this.app;
    const room = await rooms.get(own.key);
    await room.compose(({ seq }) => ({
      author: who.key,
      client: rooms.own.client,
      base: seq,
      edits: [{ counter: rooms.own.next(), steps, sources, writtenAt: at, cause, at }],
    }));
  }
}

function pictureOf(bytes: Uint8Array): { readonly hash: string; readonly data: Buffer } {
  return { hash: createHash('sha256').update(bytes).digest('hex'), data: Buffer.from(bytes) };
}

/** What stands where the reader's history begins. */
function beginning(random: Random): Node {
  const { doc, h, p } = build;
  const words = (): string =>
    Array.from({ length: random.between(3, 9) }, () => random.pick(WORDS)).join(' ');
  return doc(h(1, 'The mill'), ...Array.from({ length: random.between(2, 5) }, () => p(`${words()}.`)));
}

const WORDS = ['tide', 'mill', 'wheel', 'creek', 'marsh', 'sluice', 'heron', 'reed'];

function typed(at: number, text: string): Step[] {
  return [new ReplaceStep(at, at, new Slice(build.p(text).content, 0, 0))];
}

function firstText(doc: Node): number {
  let place = 1;
  doc.descendants((node, position) => {
    if (place === 1 && node.isTextblock) place = position + 1;
    return place === 1;
  });
  return place;
}
