import { TestBed } from '@angular/core/testing';
import type { EditsMessage } from '@oxbow/contract';
import type { Kept } from './kept';
import { Outbox } from './outbox';

const message = (document: string, ...counters: number[]): EditsMessage => ({
  document,
  client: 'window-a',
  base: 3,
  edits: counters.map((counter) => ({
    counter,
    steps: [],
    sources: [],
    writtenAt: 0,
    cause: { kind: 'writing' },
  })),
});
const kept = (client: string, person: string, document: string, ...counters: number[]): Kept => ({
  client,
  person,
  message: message(document, ...counters),
  standing: 'sending',
  title: 'Guide',
  at: 1,
});

describe('the outbox', () => {
  let outbox: Outbox;
  const clients: string[] = [];
  const keep = async (one: Kept): Promise<void> => {
    clients.push(one.client);
    await outbox.keep(one);
  };

  beforeEach(() => (outbox = TestBed.inject(Outbox)));
  afterEach(async () => {
    for (const client of clients.splice(0)) await outbox.clear(client);
  });

  it('finds again what a window that is gone left behind, for the same person and document only', async () => {
    await keep(kept('window-a', 'ines', 'guide', 1, 2));
    await keep(kept('window-b', 'tobias', 'guide', 1));
    await keep(kept('window-c', 'ines', 'rota', 1));
    expect((await outbox.stranded('ines', 'guide')).map((one) => one.client)).toEqual(['window-a']);
  });

  it('leaves alone what a living window is about to send', async () => {
    await keep(kept('window-d', 'ines', 'guide', 1));
    const release = await outbox.claim('window-d');
    expect(await outbox.claim('window-d')).toBeNull();
    expect(await outbox.stranded('ines', 'guide')).toEqual([]);
    release?.();
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect((await outbox.stranded('ines', 'guide')).length).toBe(1);
  });

  it('keeps the newest state of a window, and nothing once all is acknowledged', async () => {
    await keep(kept('window-e', 'ines', 'guide', 1, 2));
    await keep(kept('window-e', 'ines', 'guide', 2));
    expect((await outbox.stranded('ines', 'guide'))[0]?.message.edits.map((edit) => edit.counter)).toEqual([
      2,
    ]);
    await keep(kept('window-e', 'ines', 'guide'));
    expect(await outbox.stranded('ines', 'guide')).toEqual([]);
  });

  it('lists what is left in all documents, latest first, and hands a box over at once', async () => {
    await keep({ ...kept('window-f', 'ines', 'guide', 1), at: 5 });
    await keep({ ...kept('window-g', 'ines', 'rota', 1), at: 9 });
    expect((await outbox.stranded('ines')).map(({ client }) => client)).toEqual(['window-g', 'window-f']);
    await outbox.takeOver('window-f', { ...kept('window-h', 'ines', 'guide', 1), at: 7 });
    clients.push('window-h');
    expect((await outbox.stranded('ines')).map(({ client }) => client)).toEqual(['window-g', 'window-h']);
  });

  it('loses nothing of a page that goes before the last of it is stored', async () => {
    const leaving = TestBed.inject(Outbox);
    clients.push('window-i');
    const stored = [1, 2, 3].map((last) =>
      leaving.keep(kept('window-i', 'ines', 'guide', ...Array(last).keys())),
    );
    window.dispatchEvent(new Event('pagehide'));
    expect(Object.keys(localStorage)).toContain('oxbow-parting:window-i');
    TestBed.resetTestingModule();
    const next = TestBed.inject(Outbox);
    expect((await next.stranded('ines', 'guide'))[0]?.message.edits.length).toBe(3);
    await Promise.all(stored);
    expect(Object.keys(localStorage)).not.toContain('oxbow-parting:window-i');
    expect((await next.stranded('ines', 'guide'))[0]?.message.edits.length).toBe(3);
  });

  it('stores only the last of what comes faster than it can be stored', async () => {
    const put = spyOn(IDBObjectStore.prototype, 'put').and.callThrough();
    clients.push('window-j');
    await Promise.all(
      [1, 2, 3, 4, 5].map((last) => outbox.keep(kept('window-j', 'ines', 'rota', ...Array(last).keys()))),
    );
    expect(put.calls.count()).toBeLessThan(3);
    expect((await outbox.stranded('ines', 'rota'))[0]?.message.edits.length).toBe(5);
  });
});
