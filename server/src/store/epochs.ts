import { LRUCache } from 'lru-cache';

/** Raised when what was derived from a document's content may not be stored any more: its content was changed in place meanwhile. */
export class EpochPassed extends Error {
  constructor(document: number) {
    super(`The content of document ${document} was changed while this was derived from it`);
    this.name = 'EpochPassed';
  }
}

/**
 * A counter for each document, raised whenever what was read of it before may not be shown or stored any more: when text is erased, the
 * document is moved to the bin, or a share ends. One for each thread; the thread that reads the past follows that of the main one.
 */
export class Epochs {
  private readonly numbers = new Map<number, number>();
  private readonly listeners: ((document: number) => void)[] = [];

  /** The epoch of a document. Take it before reading what something is derived from. */
  of(document: number): number {
    return this.numbers.get(document) ?? 0;
  }

  raise(document: number): void {
    this.numbers.set(document, this.of(document) + 1);
    for (const listener of this.listeners) listener(document);
  }

  /** Calls `listener` with each document whose epoch was raised. */
  onRaised(listener: (document: number) => void): void {
    this.listeners.push(listener);
  }

  /** Throws `EpochPassed` where the epoch is not the one given. To be called in the transaction that stores something derived. */
  check(document: number, epoch: number): void {
    if (this.of(document) !== epoch) throw new EpochPassed(document);
  }
}

/** How large a cache may be: a number of entries, or the sum of what each weighs. */
type Size<V> =
  { readonly max: number; readonly ttl?: number } | { readonly maxSize: number; weight(value: V): number };

/** An entry of a cache, there or not, bound to the epoch at which it was asked for. */
export interface CacheEntry<V> {
  readonly value: V | undefined;
  /** Stores a value derived since; does nothing when the epoch was raised meanwhile. */
  set(value: V): void;
}

/**
 * A cache of what is derived from documents' content. Entries of a document are deleted when its epoch is raised, and what was being
 * derived by then is not stored.
 */
export class DocumentCache<V extends object | true> {
  private readonly held: LRUCache<string, V>;

  constructor(
    private readonly epochs: Epochs,
    size: Size<V>,
  ) {
    this.held =
      'max' in size
        ? new LRUCache({ max: size.max, ttl: size.ttl ?? 0 })
        : new LRUCache({ maxSize: size.maxSize, sizeCalculation: (value) => size.weight(value) });
    epochs.onRaised((document) => this.forget(document));
  }

  /** The entry of a document under a name. Ask for it before reading what its value is derived from. */
  entry(document: number, name: string | number = ''): CacheEntry<V> {
    const key = `${document} ${name}`;
    const epoch = this.epochs.of(document);
    return {
      value: this.held.get(key),
      set: (value) => {
        if (this.epochs.of(document) === epoch) this.held.set(key, value);
      },
    };
  }

  /** The value of a document under a name. */
  get(document: number, name: string | number = ''): V | undefined {
    return this.held.get(`${document} ${name}`);
  }

  delete(document: number, name: string | number = ''): void {
    this.held.delete(`${document} ${name}`);
  }

  /** Deletes all entries of a document. */
  forget(document: number): void {
    for (const key of this.held.keys()) if (key.startsWith(`${document} `)) this.held.delete(key);
  }

  clear(): void {
    this.held.clear();
  }
}
