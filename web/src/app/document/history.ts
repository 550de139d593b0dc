import { HttpErrorResponse } from '@angular/common/http';
import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { History, Landmark, Version, WireEdit } from '@oxbow/contract';
import type { Cause, Trace } from '@oxbow/core/history';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { LiveChannel } from '../live/channel';
import { isAway } from '../session/remembered';

/** What is known of one document's history without its content: every edit's trace, why it was made, and the versions. */
@Injectable()
export class DeskHistory {
  private readonly api = inject(Api);
  private readonly known = signal<readonly Trace[]>([]);
  private readonly why = signal<ReadonlyMap<number, Cause>>(new Map());
  private readonly cut = signal<readonly Version[]>([]);
  private readonly named = signal<readonly Landmark[]>([]);
  private readonly failed = signal('');
  private readonly loaded = signal(false);
  private readonly kept = signal(false);
  private hasCome: () => void = () => undefined;
  private readonly first = new Promise<void>((come) => (this.hasCome = come));
  private id = '';
  /** Whether the server was away when the history was asked for. */
  private missed = false;

  readonly traces = this.known.asReadonly();
  /** Causes of edits that are not plain writing, by seq. */
  readonly causes = this.why.asReadonly();
  /** Versions, newest first, with the names they have now. */
  readonly versions = computed(() => {
    const names = new Map(this.named().map((landmark) => [landmark.seq, landmark]));
    return this.cut().map((version) => ({ ...version, landmark: names.get(version.seq) ?? null }));
  });
  /** Named moments, in the order of the document's life. */
  readonly landmarks = this.named.asReadonly();
  readonly trouble = this.failed.asReadonly();
  /** Whether the history has come, or is known not to. */
  readonly ready = this.loaded.asReadonly();
  /** Whether one has the document only as it is now: its history is not for one to see. */
  readonly hidden = this.kept.asReadonly();
  readonly head = computed(() => this.known().at(-1)?.seq ?? 0);

  constructor() {
    const channel = inject(LiveChannel);
    const stop = channel.whenConnected(() => {
      if (this.missed) void this.load(this.id);
    });
    inject(DestroyRef).onDestroy(stop);
    channel
      .on('version')
      .pipe(takeUntilDestroyed())
      .subscribe(({ document, version }) => document === this.id && this.addVersion(version));
    channel
      .on('versions')
      .pipe(takeUntilDestroyed())
      .subscribe(({ document }) => document === this.id && !this.hidden() && void this.loadVersions());
    channel
      .on('landmarks')
      .pipe(takeUntilDestroyed())
      .subscribe(({ document }) => document === this.id && void this.loadLandmarks());
  }

  private async loadVersions(): Promise<void> {
    try {
      this.cut.set(await firstValueFrom(this.api.allVersions(this.id)));
      this.failed.set('');
    } catch (error) {
      this.failed.set(saidOf(error));
    }
  }

  /** Waits until the history has come, or is known not to. */
  async come(): Promise<void> {
    await this.first;
  }

  async load(id: string): Promise<void> {
    this.id = id;
    this.missed = false;
    try {
      const [history, versions, landmarks] = await Promise.all([
        firstValueFrom(this.api.history(id, 0)),
        firstValueFrom(this.api.allVersions(id)),
        firstValueFrom(this.api.landmarks(id)),
      ]);
      this.named.set(landmarks);
      this.known.set(tracesOf(history));
      this.why.set(new Map(history.events.map(({ seq, cause }) => [seq, cause as Cause])));
      this.cut.set(versions);
      this.failed.set('');
      this.kept.set(false);
    } catch (error) {
      const isKept = error instanceof HttpErrorResponse && error.status === 403;
      this.kept.set(isKept);
      this.failed.set(isKept || isAway(error) ? '' : saidOf(error));
      this.missed = isAway(error);
    }
    this.loaded.set(true);
    this.hasCome();
  }

  /** The line grows by itself: takes in what was accepted since. */
  add(edits: readonly WireEdit[]): void {
    if (this.hidden()) return;
    const head = this.head();
    const fresh = edits.filter((edit) => edit.seq > head);
    const first = fresh[0];
    if (!first) return;
    if (first.seq > head + 1) return void this.load(this.id);
    this.known.update((traces) => [
      ...traces,
      ...fresh.map((edit) => ({
        seq: edit.seq,
        at: edit.acceptedAt,
        author: edit.author,
        wordsIn: edit.wordsIn,
        wordsOut: edit.wordsOut,
      })),
    ]);
    const events = fresh.filter((edit) => edit.cause.kind !== 'writing');
    if (events.length > 0)
      this.why.update(
        (causes) =>
          new Map([...causes, ...events.map((edit): [number, Cause] => [edit.seq, edit.cause as Cause])]),
      );
  }

  private async loadLandmarks(): Promise<void> {
    try {
      this.named.set(await firstValueFrom(this.api.landmarks(this.id)));
      this.failed.set('');
    } catch (error) {
      this.failed.set(saidOf(error));
    }
  }

  addVersion(version: Version): void {
    this.cut.update((versions) =>
      [version, ...versions.filter(({ number }) => number !== version.number)].sort(
        (a, b) => b.number - a.number,
      ),
    );
  }

  /** The version that ends with an edit, if one does. */
  versionAt(seq: number): Version | null {
    return this.versions().find((version) => version.seq === seq) ?? null;
  }

  /** The landmark on a moment, if one stands there. */
  landmarkAt(seq: number): Landmark | null {
    return this.named().find((landmark) => landmark.seq === seq) ?? null;
  }
}

function tracesOf(history: History): Trace[] {
  return history.at.map((at, i) => ({
    seq: history.from + i,
    at,
    author: history.people[history.who[i] ?? 0] ?? '',
    wordsIn: history.wordsIn[i] ?? 0,
    wordsOut: history.wordsOut[i] ?? 0,
  }));
}
