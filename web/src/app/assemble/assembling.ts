import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import type { ComparedChange } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import { familyOf, isRename, sectionOf } from '@oxbow/core/compare';
import { Store } from '@ngrx/store';
import { Comparing } from '../reading/comparing';
import type { Look } from '../reading/look';
import { peopleOf } from '../reading/look';
import { offersBoth } from '../reading/switch';
import { session } from '../session/session.store';
import { Comparer } from '../worker/comparer';
import type { Kept } from './kept';
import { forget, keep, recall } from './kept';

/** A group of changes that can be decided together. */
export interface Group {
  readonly name: string;
  readonly changes: readonly number[];
}

/** Decides, change by change, what of a comparison is taken; what comes of it grows in a worker as one goes. */
@Injectable()
export class Assembling {
  private readonly comparing = inject(Comparing);
  private readonly comparer = inject(Comparer);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly taken = signal<ReadonlyMap<number, Decision>>(new Map());
  private readonly made = signal<unknown>(null);
  private readonly failed = signal('');
  private undone: ReadonlyMap<number, Decision>[] = [];
  private looking: Look | null = null;
  private latest = 0;

  /** Whether one is assembling at present. */
  readonly on = signal(false);
  /** What was decided so far, by change. */
  readonly decisions = this.taken.asReadonly();
  /** What the decisions make, as ProseMirror JSON; null before there is any. */
  readonly result = this.made.asReadonly();
  readonly trouble = this.failed.asReadonly();
  private readonly changes = computed(() => this.comparing.look()?.comparison.changes ?? []);
  readonly left = computed(() => this.changes().filter(({ id }) => !this.taken().has(id)).length);
  readonly canUndo = computed(() => this.taken() !== this.begun());
  private readonly begun = signal<ReadonlyMap<number, Decision>>(new Map());
  /** Groups that can be decided at once: by everybody, of every family, in every section, of every rename, and what is left. */
  readonly groups = computed<{
    people: readonly Group[];
    kinds: readonly Group[];
    sections: readonly Group[];
    renames: readonly Group[];
  }>(() => {
    const [changes, sections] = [this.changes(), this.comparing.sections()];
    const by = (names: (change: ComparedChange) => readonly string[]): Group[] => {
      const groups = new Map<string, number[]>();
      for (const change of changes)
        for (const name of names(change)) groups.set(name, [...(groups.get(name) ?? []), change.id]);
      return [...groups].map(([name, ids]) => ({ name, changes: ids }));
    };
    return {
      people: by(peopleOf),
      kinds: by((change) => [familyOf(change.kind)]),
      sections: by((change) => {
        const index = sectionOf(sections, change);
        return [sections[index]?.title || $localize`Before the first heading`];
      }),
      renames: by(({ group }) => (group !== null && isRename(group) ? [group] : [])),
    };
  });

  constructor() {
    effect(() => {
      const [look, on] = [this.comparing.look(), this.on()];
      untracked(() => {
        if (!look || !on || look.file) return;
        if (look !== this.looking) this.begin(look);
      });
    });
  }

  private begin(look: Look): void {
    this.looking = look;
    const held = recall(this.me()?.id ?? '', this.keyOf(look));
    const known = new Set(look.comparison.changes.map(({ id }) => id));
    const taken = new Map((held?.takes ?? []).filter(([change]) => known.has(change)));
    this.undone = [];
    this.begun.set(taken);
    this.taken.set(taken);
    void this.make(look, taken);
  }

  private keyOf({ earlier, later }: Look): Omit<Kept, 'takes' | 'at' | 'of'> {
    return { document: later.document, other: earlier.document, earlier: earlier.seq, later: later.seq };
  }

  /** Decides about some changes at once. Of those that cannot have both, `both` takes the side that has more. */
  decide(changes: readonly number[], take: Decision): void {
    const kinds = new Map(this.changes().map((change) => [change.id, change]));
    const next = new Map(this.taken());
    for (const id of changes) {
      const change = kinds.get(id);
      if (change) next.set(id, take === 'both' ? mostOf(change) : take);
    }
    this.undone.push(this.taken());
    this.settle(next);
  }

  /** The changes that are not decided yet. */
  open(): number[] {
    return this.changes().flatMap(({ id }) => (this.taken().has(id) ? [] : [id]));
  }

  /** Takes the last decision back. */
  undo(): void {
    const before = this.undone.pop();
    if (before) this.settle(before);
  }

  private settle(taken: ReadonlyMap<number, Decision>): void {
    const look = this.looking;
    this.taken.set(taken);
    if (!look) return;
    keep(this.me()?.id ?? '', {
      ...this.keyOf(look),
      takes: [...taken],
      of: look.comparison.changes.length,
      at: Date.now(),
    });
    void this.make(look, taken);
  }

  private async make(look: Look, taken: ReadonlyMap<number, Decision>): Promise<void> {
    const turn = ++this.latest;
    try {
      const made = await this.comparer.assemble({
        earlier: look.earlier.content,
        later: look.later.content,
        takes: [...taken],
      });
      if (turn !== this.latest) return;
      this.failed.set('');
      this.made.set(made);
    } catch (error) {
      if (turn === this.latest)
        this.failed.set(error instanceof Error ? error.message : $localize`It could not be made.`);
    }
  }

  /** What the server needs to make the same. */
  input(): {
    earlier: string;
    later: string;
    with?: string;
    decisions: { change: number; take: Decision }[];
  } | null {
    const look = this.looking;
    if (!look) return null;
    const { document, other, earlier, later } = this.keyOf(look);
    return {
      earlier: `@${earlier}`,
      later: `@${later}`,
      ...(other === document ? {} : { with: other }),
      decisions: [...this.taken()].map(([change, take]) => ({ change, take })),
    };
  }

  /** It was put somewhere: nothing of it is to be gone on with. */
  done(): void {
    if (this.looking) forget(this.me()?.id ?? '', this.keyOf(this.looking));
    this.looking = null;
    this.on.set(false);
  }
}

/** Both sides where both can stand; else the side on which there is something. */
function mostOf(change: ComparedChange): Decision {
  if (offersBoth(change)) return 'both';
  return change.kind === 'removed' ? 'earlier' : 'later';
}
