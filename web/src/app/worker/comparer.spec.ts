import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { textSchema } from '@oxbow/core/content';
import { Node } from 'prosemirror-model';
import { Comparer } from './comparer';
import type { Report, Task } from './messages';
import { runTask } from './tasks';

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
    const compared = await comparer.file({ earlier, name: 'a.md', text: 'three sacks of *flour*\n' });
    expect(compared.changes.map(({ kind }) => kind)).toEqual(['replaced', 'form']);
    expect(compared.words).toBe(4);
    expect(compared.rows.length).toBe(1);
    expect(comparer.progress()).toBe('');
  });

  it('says why a file cannot be read, and goes on with the next', async () => {
    await expectAsync(comparer.file({ earlier, name: 'a.exe', text: 'MZ' })).toBeRejectedWithError(
      /can be read so far/,
    );
    const page = await comparer.page({ earlier, later, title: 'Flour', ends: ['one', 'two'], who: ['Ines'] });
    expect(page).toContain('<ins title="replaced: Ines">three</ins>');
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
    const waiting = comparer.file({ earlier, name: 'a.md', text: 'three' });
    comparer.cancel();
    await expectAsync(waiting).toBeRejectedWithError(/broken off/);
    expect(Here.ended).toBe(ended + 1);
    expect((await comparer.file({ earlier, name: 'a.txt', text: 'three' })).words).toBe(1);
  });

  it('tells how far it is', () => {
    const reports: Report[] = [];
    const paragraphs = Array.from({ length: 200 }, (_, i) => `paragraph ${i}`);
    const long = readHtml(paragraphs.map((one) => `<p>${one}</p>`).join(''), NO_IMAGES).toJSON() as unknown;
    const text = paragraphs.map((one) => `${one} more`).join('\n\n');
    runTask({ kind: 'file', id: 1, earlier: long, name: 'a.md', text }, (report) => reports.push(report));
    const said = reports.flatMap((report) => ('progress' in report ? [report.progress] : []));
    expect(said[0]).toContain('Reading');
    expect(said.length).toBeGreaterThan(2);
    expect(said.at(-1)).toBe('Comparing … 100 %');
  });
});
