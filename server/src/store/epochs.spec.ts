import { DocumentCache, EpochPassed, Epochs } from './epochs.js';

describe('a cache of what is derived from documents', () => {
  let epochs: Epochs;
  let cache: DocumentCache<{ text: string }>;

  beforeEach(() => {
    epochs = new Epochs();
    cache = new DocumentCache(epochs, { maxSize: 100, weight: ({ text }) => text.length });
  });

  it('holds values by document and name, and of a document whose epoch is raised none', () => {
    cache.entry(1, 'page').set({ text: 'one' });
    cache.entry(11, 'page').set({ text: 'eleven' });
    expect(cache.get(1, 'page')).toEqual({ text: 'one' });
    epochs.raise(1);
    expect(cache.get(1, 'page')).toBeUndefined();
    expect(cache.get(11, 'page')).toEqual({ text: 'eleven' });
  });

  it('takes nothing that was being derived when the epoch was raised', () => {
    const entry = cache.entry(1);
    epochs.raise(1);
    entry.set({ text: 'before' });
    expect(cache.get(1)).toBeUndefined();
    cache.entry(1).set({ text: 'after' });
    expect(cache.get(1)).toEqual({ text: 'after' });
  });

  it('refuses to store what was derived before', () => {
    const epoch = epochs.of(1);
    expect(() => epochs.check(1, epoch)).not.toThrow();
    epochs.raise(1);
    expect(() => epochs.check(1, epoch)).toThrowError(EpochPassed);
  });
});
