import { Injectable, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router } from '@angular/router';
import type { Place } from '../past/rooms';
import type { Mode } from '../reading/look';
import type { Pick } from '../tideline/tideline';

/** Where one is on a desk, as the address bar holds it: the picked moments, the reading, the room off the desk. */
@Injectable()
export class DeskAddress {
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly params = toSignal(this.route.queryParamMap, { requireSync: true });
  private readonly path = toSignal(this.route.paramMap, { requireSync: true });

  /** The document that is open. */
  readonly document = computed(() => this.path().get('id') ?? '');
  /** The picked pair of moments, or null on the present page. */
  readonly pick = computed<Pick | null>(
    () => {
      const [earlier, later] = ['earlier', 'later'].map((name) => Number(this.params().get(name) ?? NaN));
      if (earlier === undefined || later === undefined) return null;
      const ordered = this.other() !== null || earlier <= later;
      return Number.isInteger(earlier) && Number.isInteger(later) && earlier >= 0 && later >= 0 && ordered
        ? { earlier, later }
        : null;
    },
    { equal: (a, b) => a?.earlier === b?.earlier && a?.later === b?.later },
  );
  /** Another document that the earlier moment is one of, or null. */
  readonly other = computed(() => this.params().get('with'));
  readonly mode = computed<Mode>(() => {
    const reading = this.params().get('reading');
    return reading === 'facing' || reading === 'digest' ? reading : 'flowing';
  });
  readonly place = computed<Place | null>(() => {
    const [room, q, passage] = ['room', 'q', 'passage'].map((name) => this.params().get(name) ?? undefined);
    return room ? { room, q, passage } : null;
  });
  /** Whether the sitting last written in is to be opened. */
  readonly lastSitting = computed(() => this.params().get('history') === 'last');
  /** A file of a message that the document is to be compared with, or null. */
  readonly arrival = computed<{ letter: string; index: number } | null>(() => {
    const [letter, file] = [this.params().get('arrival'), Number(this.params().get('file') ?? NaN)];
    return letter && Number.isInteger(file) ? { letter, index: file } : null;
  });
  /** Whether the comparison in view is being assembled from. */
  readonly assembling = computed(() => this.params().get('assemble') !== null);
  /** A word about how one came here, such as a link that leads nowhere. */
  readonly said = computed(() => this.params().get('said'));

  /** Goes to a pair of moments, or back to now; a pair after a pair takes its place. */
  go(pick: Pick | null, other: string | null, assemble = false): void {
    const kept = this.mode() === 'flowing' ? {} : { reading: this.mode() };
    const queryParams = pick
      ? { ...pick, ...kept, ...(other ? { with: other } : {}), ...(assemble ? { assemble: 1 } : {}) }
      : {};
    void this.router.navigate([], { queryParams, replaceUrl: this.pick() !== null });
  }

  /** Goes into a room off the desk, or out of it; where one was is kept. */
  enter(place: Place | null): void {
    const { room = null, q = null, passage = null } = place ?? {};
    void this.router.navigate([], {
      queryParams: { room, q: q || null, passage },
      queryParamsHandling: 'merge',
      replaceUrl: this.place() !== null,
    });
  }

  /** Begins to assemble from the comparison in view, or leaves it. */
  assemble(on: boolean): void {
    const queryParams = { assemble: on ? '1' : null };
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }

  /** Reads a comparison another way. */
  read(mode: Mode): void {
    const queryParams = { reading: mode === 'flowing' ? null : mode };
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }
}
