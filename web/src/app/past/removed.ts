import { Clipboard } from '@angular/cdk/clipboard';
import {
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { Person, RemovedPage, RemovedPassage } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { PutBack } from '../carry/put-back';
import { lasting } from '../look/lasting';
import { saying } from '../document/says';
import { fullTime } from '../look/time';
import { Who } from '../look/who';
import type { Pick } from '../tideline/tideline';
import { Room } from './room';

/** Everything of more than a few words that left the document, searchable together with the present text. */
@Component({
  selector: 'ox-removed',
  imports: [FormsModule, MatButtonModule, MatIconModule, Room, Who],
  template: `
    <ox-room
      noun="removed"
      name="Removed passages"
      i18n-name
      about="What has left this document and is nowhere in it now, newest first. Looking changes nothing."
      i18n-about
      [busy]="found.isLoading()"
      [trouble]="found.error() ? saidOf(found.error()) : ''"
      (again)="found.reload()"
      (closed)="closed.emit()"
    >
      <div class="column">
        <form class="search" (ngSubmit)="asked.set(words.trim())">
          <input
            name="words"
            i18n-name
            type="search"
            [(ngModel)]="words"
            placeholder="Words in it; a phrase in quotes"
            i18n-placeholder
            aria-label="Words in removed and present text"
            i18n-aria-label
          />
          <button i18n matButton="filled" type="submit">Find</button>
        </form>
        @if (shown(); as page) {
          @if (page.present.length > 0) {
            <h3 i18n>Still in the document</h3>
            <ul>
              @for (passage of page.present; track passage.from) {
                <li class="item">
                  <p class="quote">{{ says()(passage.text) }}</p>
                  <div class="acts">
                    <button
                      i18n
                      matButton="outlined"
                      type="button"
                      (click)="lived.emit({ seq: null, position: passage.from })"
                    >
                      Its life so far
                    </button>
                  </div>
                </li>
              }
            </ul>
            <h3 i18n>Removed</h3>
          }
          <p class="count" role="status">
            @if (asked()) {
              <ng-container i18n>
                {page.total, plural,
                  =1 {1 passage with these words}
                  other {{{ page.total }} passages with these words}
                }
              </ng-container>
            } @else {
              <ng-container i18n>
                {page.total, plural, =1 {1 passage} other {{{ page.total }} passages}}
              </ng-container>
            }
          </p>
          <ol>
            @for (passage of page.items; track passage.first + '.' + passage.from) {
              <li class="item">
                <p i18n class="meta">
                  <ox-who [id]="passage.by" [people]="people()" /> removed it {{ fullTime(passage.at) }}
                  <span>{{ passage.words }} words, written by {{ names(passage) }}</span>
                </p>
                <p class="quote">{{ says()(passage.text) }}</p>
                <div class="acts">
                  @if (mayWrite()) {
                    <button matButton="outlined" type="button" (click)="putBack(passage)">
                      <mat-icon svgIcon="carry" /><ng-container i18n>Put it back </ng-container>
                    </button>
                  }
                  <button i18n matButton="outlined" type="button" (click)="gone.emit(momentOf(passage))">
                    Show it where it stood
                  </button>
                  <button
                    i18n
                    matButton="outlined"
                    type="button"
                    (click)="lived.emit({ seq: passage.moment, position: passage.from })"
                  >
                    Its life
                  </button>
                  <button i18n matButton="outlined" type="button" (click)="copy(passage)">
                    Copy the text
                  </button>
                </div>
              </li>
            } @empty {
              <li i18n class="none">
                {!!asked(), select,
                  true {Nothing that was removed holds these words.}
                  other {Nothing of more than a few words has been removed from this document.}
                }
              </li>
            }
          </ol>
          @if (page.next) {
            <button i18n matButton="outlined" type="button" (click)="more(page.next)">Show older ones</button>
          }
        }
      </div>
    </ox-room>
  `,
  styleUrl: './_list.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Removed {
  protected readonly says = saying();
  readonly document = input.required<string>();
  readonly head = input.required<number>();
  readonly mayWrite = input.required<boolean>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly gone = output<Pick>();
  /** Asks for the life of the passage at a position of a moment; null is now. */
  readonly lived = output<{ seq: number | null; position: number }>();
  readonly said = output<string>();
  readonly closed = output();

  private readonly api = inject(Api);
  private readonly back = inject(PutBack);
  private readonly clipboard = inject(Clipboard);
  protected words = '';
  protected readonly asked = signal('');
  protected readonly found = rxResource({
    params: () => ({ document: this.document(), q: this.asked(), head: this.head() }),
    stream: ({ params }) => this.api.removed(params.document, params.q, null),
  });
  private readonly first = lasting<RemovedPage>(this.found, this.document);
  /** What was found, with the pages that were asked for since. */
  protected readonly shown = linkedSignal<RemovedPage | null>(() => this.first());
  protected readonly fullTime = fullTime;
  protected readonly saidOf = saidOf;

  protected names({ writers }: RemovedPassage): string {
    return writers.map((id) => this.people().get(id)?.name ?? $localize`somebody`).join(', ');
  }

  /** The page right before the passage began to leave, against right after it was gone. */
  protected momentOf({ moment, last }: RemovedPassage): Pick {
    return { earlier: moment, later: last };
  }

  protected async putBack({ moment, from, to }: RemovedPassage): Promise<void> {
    if (await this.back.passage(this.document(), moment, from, to)) this.closed.emit();
  }

  protected async more(cursor: string): Promise<void> {
    const asked = this.asked();
    try {
      const next = await firstValueFrom(this.api.removed(this.document(), asked, cursor));
      if (asked !== this.asked()) return;
      this.shown.update((page) => page && { ...next, items: [...page.items, ...next.items] });
    } catch (error) {
      this.said.emit(saidOf(error));
    }
  }

  protected copy({ text }: RemovedPassage): void {
    this.said.emit(
      this.clipboard.copy(text)
        ? $localize`Copied the text.`
        : $localize`This browser does not let it be copied.`,
    );
  }
}
