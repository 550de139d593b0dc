import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { countWords } from '@oxbow/core/content';
import { Store } from '@ngrx/store';
import { saidOf } from '../api/api';
import { Drafts, wordsOf } from '../live/drafts';
import type { Kept, Standing } from '../live/kept';
import { saveFile } from '../look/save';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';

/** Why work stranded, in words; work that was kept here on purpose goes by another name. */
const WHY: Record<Standing, string> = {
  sending: $localize`, since its window closed before it was sent`,
  away: $localize`, since the server was away`,
  held: '',
  out: '',
  ended: $localize`, since the document was not open to your writing any more`,
};
const NAMES: Partial<Record<Standing, string>> = {
  held: $localize`Draft held back`,
  out: $localize`Draft of a check-out`,
};

/** Work found again that did not reach the server, of one document on its desk or of all on the shelf. */
@Component({
  selector: 'ox-stranded',
  imports: [MatButtonModule, RouterLink],
  template: `
    @for (draft of found(); track draft.kept.client) {
      <div class="band">
        <p role="status">
          <strong>{{ draft.name }}</strong>
          @if (!document()) {
            <ng-container i18n>
              in
              <a [routerLink]="['/documents', draft.kept.message.document]">{!!draft.kept.title, select,
                true {{{ draft.kept.title }}}
                other {a document}
              }</a>
            </ng-container>
          }
          <ng-container i18n> of {{ draft.when }}: {{ draft.size }}{{ draft.why }}. </ng-container>
        </p>
        @if (document()) {
          <button i18n matButton="outlined" type="button" (click)="compared.emit(draft.kept)">
            Compare with the document
          </button>
          @if (mayWrite()) {
            <button i18n matButton="outlined" type="button" (click)="wanted.emit(draft.kept)">
              Put it on top
            </button>
          }
          <button i18n matButton type="button" (click)="aside(draft.kept)">
            Keep it as a document of its own
          </button>
        } @else {
          <button i18n matButton type="button" (click)="save(draft.kept)">Save its words</button>
        }
        <button i18n matButton type="button" (click)="discard(draft.kept)">Discard it</button>
      </div>
    }
    @if (discarded(); as kept) {
      <div class="band">
        <p i18n role="status">The draft is discarded.</p>
        <button i18n matButton type="button" (click)="bringBack(kept)">Bring it back</button>
      </div>
    }
    @if (wrong()) {
      <div class="band">
        <p class="wrong" role="alert">{{ wrong() }}</p>
      </div>
    }
  `,
  styleUrl: '../look/band.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Stranded {
  /** The document on the desk; null on the shelf, where those of all are listed. */
  readonly document = input<string | null>(null);
  readonly mayWrite = input(false);
  /** Changes when there may be others. */
  readonly again = input(0);
  readonly compared = output<Kept>();
  readonly wanted = output<Kept>();

  private readonly drafts = inject(Drafts);
  private readonly router = inject(Router);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly list = signal<readonly Kept[]>([]);
  protected readonly discarded = signal<Kept | null>(null);
  protected readonly wrong = signal('');
  protected readonly found = computed(() =>
    this.list().map((kept) => {
      const { brings, removes } = wordsOf(kept);
      const words = countWords(brings);
      return {
        kept,
        when: dayAndTime(new Date(kept.at).toISOString()),
        name: NAMES[kept.standing] ?? $localize`Stranded draft`,
        size: $localize`${words === 1 ? $localize`1 word` : $localize`${words} words`} written${removes > 0 ? $localize`, ${removes} signs taken out` : ''}`,
        why: WHY[kept.standing],
      };
    }),
  );

  constructor() {
    effect(() => {
      const [person, document] = [this.me()?.id, this.document()];
      this.again();
      if (person) untracked(() => void this.look(person, document));
    });
  }

  private async look(person: string, document: string | null): Promise<void> {
    this.list.set(await this.drafts.list(person, document ?? undefined));
  }

  protected async aside(kept: Kept): Promise<void> {
    try {
      const made = await this.drafts.aside(
        kept,
        $localize`${kept.title || $localize`Draft`}, stranded draft`.slice(0, 200),
      );
      void this.router.navigate(['/documents', made.id]);
    } catch (error) {
      this.wrong.set(saidOf(error));
    }
  }

  protected save(kept: Kept): void {
    const { brings } = wordsOf(kept);
    saveFile(`${kept.title || $localize`Draft`}, stranded.txt`, new Blob([brings], { type: 'text/plain' }));
  }

  protected async discard(kept: Kept): Promise<void> {
    await this.drafts.discard(kept);
    this.list.update((list) => list.filter((one) => one !== kept));
    this.discarded.set(kept);
  }

  protected async bringBack(kept: Kept): Promise<void> {
    await this.drafts.bringBack(kept);
    this.list.update((list) => [kept, ...list]);
    this.discarded.set(null);
  }
}
