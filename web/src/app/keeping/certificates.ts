import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Certificate } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { What } from '../acting/what';
import { KeepingApi } from '../api/keeping-api';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import { KeepingRoom } from './keeping-room';
import { extentSaid, placesSaid, ruleSaid } from './words';

/** How often it is looked whether an erasure that runs is done, in milliseconds. */
const LOOK = 1000;

/** What was erased and what went by rules: part of the history, for everybody who may see it. */
@Component({
  selector: 'ox-certificates',
  imports: [MatButtonModule, MatProgressBarModule, RouterLink, What],
  templateUrl: './certificates.html',
  styleUrl: './keeping.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Certificates {
  private readonly api = inject(KeepingApi);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  protected readonly room = inject(KeepingRoom);
  protected readonly dayAndTime = dayAndTime;
  protected readonly extentSaid = extentSaid;
  protected readonly placesSaid = placesSaid;
  protected readonly ruleSaid = ruleSaid;

  constructor() {
    let timer: ReturnType<typeof setTimeout> | undefined;
    effect(() => {
      clearTimeout(timer);
      if (this.room.erasures().some(({ state }) => state === 'running'))
        timer = setTimeout(() => void this.look(), LOOK);
    });
    inject(DestroyRef).onDestroy(() => clearTimeout(timer));
  }

  /** Reads all anew, and says when what was running is done. */
  private async look(): Promise<void> {
    await this.room.load();
    if (this.room.erasures().every(({ state }) => state !== 'running'))
      this.room.said.set($localize`It is erased.`);
  }

  protected nameOf(id: string): string {
    return this.people().get(id)?.name ?? $localize`somebody`;
  }

  protected namesOf(ids: readonly string[]): string {
    return ids.map((id) => this.nameOf(id)).join($localize` or `);
  }

  protected answer({ id }: Certificate, agree: boolean): void {
    const said = agree
      ? $localize`You agreed: it is being erased.`
      : $localize`You declined: nothing is erased.`;
    void this.room.doing(this.api.answer(this.room.what().id, id, agree), said);
  }

  /** What the search afterwards came to. */
  protected checkSaid({ checked }: Certificate): string {
    if (!checked) return '';
    const read = $localize`${checked.rows} records and ${checked.files === 1 ? $localize`1 message` : $localize`${checked.files} messages`}`;
    return checked.found === 0
      ? $localize`Looked for afterwards in ${read}, and found nowhere.`
      : $localize`Looked for afterwards in ${read}\: it is still found in ${checked.found} places.`;
  }

  protected numbersOf(thinning: { versions: readonly { number: number }[] }): string {
    return thinning.versions.map(({ number }) => number).join(', ');
  }
}
