import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { sittings } from '@oxbow/core/history';
import { documentOf } from '@oxbow/core/kinds';
import { Store } from '@ngrx/store';
import { Node } from 'prosemirror-model';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import { DeskActs } from '../document/acts';
import { DeskHistory } from '../document/history';
import { Words } from '../document/words';

const SITTING = 10 * 60_000;

/** A way back that would change something. */
interface Way {
  readonly name: string;
  readonly run: () => void;
}

/** Quick ways back without opening the history, each with its time, and only those that would change something. */
@Component({
  selector: 'ox-ways-back',
  imports: [MatButtonModule, MatMenuModule],
  template: `
    <button i18n matButton="outlined" type="button" [matMenuTriggerFor]="menu" (menuOpened)="look()">
      Go back …
    </button>
    <mat-menu #menu="matMenu">
      @for (way of ways(); track way.name) {
        <button mat-menu-item type="button" (click)="way.run()">{{ way.name }}</button>
      }
      @if (ways().length === 0) {
        <button i18n mat-menu-item type="button" disabled>
          {!!looking(), select,
            true {Looking what would change …}
            other {Nothing has changed that could be gone back from}
          }
        </button>
      }
    </mat-menu>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WaysBack {
  readonly document = input.required<string>();
  /** The moment at which the document was opened here, or null before it was. */
  readonly found = input.required<number | null>();

  private readonly api = inject(Api);
  private readonly acts = inject(DeskActs);
  private readonly log = inject(DeskHistory);
  private readonly words = inject(Words);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  protected readonly ways = signal<readonly Way[]>([]);
  protected readonly looking = signal(false);

  protected async look(): Promise<void> {
    this.looking.set(true);
    this.ways.set([]);
    try {
      const ways = await Promise.all([this.asFound(), this.toVersion(), this.beforeSitting()]);
      this.ways.set(ways.filter((way) => way !== null));
    } catch (error) {
      this.words.say(saidOf(error));
    } finally {
      this.looking.set(false);
    }
  }

  private async asFound(): Promise<Way | null> {
    const seq = this.found();
    if (seq === null || !(await this.differs(seq))) return null;
    const run = (): void =>
      void this.acts.restore(this.document(), seq, this.log.versionAt(seq), $localize`As it was found`);
    return { name: $localize`To as I found it, ${this.when(seq)}`, run };
  }

  private async toVersion(): Promise<Way | null> {
    const version = this.log.versions()[0];
    if (!version || version.seq === this.found() || !(await this.differs(version.seq))) return null;
    const run = (): void => void this.acts.restore(this.document(), version.seq, version);
    return { name: $localize`To the last version, ${version.number}, ${dayAndTime(version.at)}`, run };
  }

  /** Takes back what this person did in the sitting under way; what others wrote stays. */
  private async beforeSitting(): Promise<Way | null> {
    const me = this.me()?.id ?? '';
    const own = sittings(
      this.log.traces().filter(({ author }) => author === me),
      SITTING,
    ).at(-1);
    if (!own || Date.now() - own.to > SITTING) return null;
    const input = { after: own.first - 1, upTo: own.last, person: me };
    const { value } = await this.acts.previewTakeBack(this.document(), input);
    if (!value || value.changes === 0) return null;
    const run = (): void => void this.acts.takeBack(this.document(), input);
    return {
      name: $localize`To before this sitting of mine, ${dayAndTime(own.from)}; others’ writing stays`,
      run,
    };
  }

  /** Whether the document read otherwise at a moment than it does now. */
  private async differs(seq: number): Promise<boolean> {
    const head = this.log.head();
    if (seq >= head) return false;
    const [then, now] = await Promise.all(
      [seq, head].map((moment) => firstValueFrom(this.api.moment(this.document(), moment))),
    );
    const doc = (content: unknown): Node => documentOf(content);
    return !doc(then?.content).eq(doc(now?.content));
  }

  private when(seq: number): string {
    const trace = this.log.traces()[seq - (this.log.traces()[0]?.seq ?? 1)];
    return trace ? dayAndTime(trace.at) : $localize`blank`;
  }
}
