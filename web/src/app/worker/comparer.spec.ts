import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { textSchema } from '@oxbow/core/kinds/text';
import { Node } from 'prosemirror-model';
import { Comparer } from './comparer';
import type { Report, Task } from './messages';
import { runTask } from './tasks';

const utf8 = (text: string) => new TextEncoder().encode(text);
const earlier = readHtml('<p>two sacks of flour</p>', NO_IMAGES).toJSON() as unknown;
const later = readHtml('<p>three sacks of flour</p>', NO_IMAGES).toJSON() as unknown;

/** Does in this thread, a moment later, what the worker does in its own. */
class Here extends EventTarget {
  static ended = 0;
  private alive = true;

  postMessage(task: Task): void {
    setTimeout(() =>
      runTask(task, (data) => this.alive && this.dispatchEvent(new MessageEvent('message', { data }))),
    );
  }

  terminate(): void {
    this.alive = false;
    Here.ended++;
  }
}

describe('comparing in a web worker', () => {
  let comparer: Comparer;
  beforeEach(() => {
    spyOn(globalThis, 'Worker').and.callFake(function () {
      return new Here() as unknown as Worker;
    } as never);
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    comparer = TestBed.inject(Comparer);
  });

  it('reads a file and compares it', async () => {
    const compared = await comparer.file({ earlier, name: 'a.md', bytes: utf8('three sacks of *flour*\n') });
    expect(compared.changes.map(({ kind }) => kind)).toEqual(['replaced', 'form']);
    expect(compared.words).toBe(4);
    expect(compared.rows.length).toBe(1);
    expect(comparer.progress()).toBe('');
  });

  it('says why a file cannot be read, and goes on with the next', async () => {
    await expectAsync(comparer.file({ earlier, name: 'a.exe', bytes: utf8('MZ') })).toBeRejectedWithError(
      /can be read/,
    );
    const about = { title: 'Flour', author: 'Ines', at: '2026-11-24T09:00:00.000Z', images: [], credits: [] };
    const page = await comparer.redline({
      ...about,
      format: 'html',
      earlier,
      later,
      ends: ['one', 'two'],
      who: ['Ines'],
    });
    expect(new TextDecoder().decode(page)).toContain('<ins title="replaced: Ines">three</ins>');
  });

  it('makes a file with tracked changes, each by whoever made it, and tells what a file holds', async () => {
    const made = { side: 'later', from: 0, to: 99, author: 'Ines', at: '2026-11-24T09:00:00.000Z' } as const;
    const bytes = await comparer.redline({
      format: 'docx',
      earlier,
      later,
      title: 'Flour',
      author: 'Olu',
      at: '2026-11-24T09:00:00.000Z',
      ends: ['one', 'two'],
      who: [],
      credits: [[made, { ...made, side: 'earlier' }]],
      images: [],
    });
    const about = await comparer.about({ name: 'flour.docx', bytes });
    expect([about.title, about.author]).toEqual(['Flour', 'Olu']);
    expect(about.tracked.map(({ kind, author, text }) => [kind, author, text])).toEqual([
      ['deletion', 'Ines', 'two'],
      ['insertion', 'Ines', 'three'],
    ]);
    const compared = await comparer.file({ earlier, name: 'flour.docx', bytes });
    expect([compared.changes.length, compared.about?.tracked.length]).toEqual([1, 2]);
  });

  it('puts decisions together', async () => {
    const text = async (takes: [number, 'earlier' | 'later' | 'both'][]): Promise<string> =>
      Node.fromJSON(textSchema, await comparer.assemble({ earlier, later, takes })).textContent;
    expect(await text([])).toBe('three sacks of flour');
    expect(await text([[0, 'earlier']])).toBe('two sacks of flour');
    expect(await text([[0, 'both']])).toMatch(/two ?three sacks of flour/);
  });

  it('can be broken off, and begins anew', async () => {
    const ended = Here.ended;
    const waiting = comparer.file({ earlier, name: 'a.md', bytes: utf8('three') });
    comparer.cancel();
    await expectAsync(waiting).toBeRejectedWithError(/broken off/);
    expect(Here.ended).toBe(ended + 1);
    expect((await comparer.file({ earlier, name: 'a.txt', bytes: utf8('three') })).words).toBe(1);
  });

  it('tells how far it is', () => {
    const reports: Report[] = [];
    const paragraphs = Array.from({ length: 200 }, (_, i) => `paragraph ${i}`);
    const long = readHtml(paragraphs.map((one) => `<p>${one}</p>`).join(''), NO_IMAGES).toJSON() as unknown;
    const text = paragraphs.map((one) => `${one} more`).join('\n\n');
    runTask({ kind: 'file', id: 1, earlier: long, name: 'a.md', bytes: utf8(text) }, (report) =>
      reports.push(report),
    );
    const said = reports.flatMap((report) => ('progress' in report ? [report.progress] : []));
    expect(said[0]).toBeNull();
    expect(said.length).toBeGreaterThan(2);
    expect(said.at(-1)).toBe(100);
  });
});
