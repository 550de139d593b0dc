import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { Appearance, FoundInTime, Person } from '@oxbow/contract';
import type { Trace } from '@oxbow/core/history';
import { of } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { lasting } from '../look/lasting';
import { dayAndTime, fullTime } from '../look/time';
import { Who } from '../look/who';
import type { Pick } from '../tideline/tideline';
import { Room } from './room';

const WIDTH = 860;

/** Words in all versions of a document: when they were there, when they came and went, and who brought and removed them. */
@Component({
  selector: 'ox-find',
  imports: [FormsModule, MatButtonModule, Room, RouterLink, Who],
  template: `
    <ox-room
      name="Find in time"
      i18n-name
      about="Looks through every moment of this document, not only the present one."
      i18n-about
      [busy]="found.isLoading()"
      [trouble]="found.error() ? saidOf(found.error()) : ''"
      (again)="found.reload()"
      (closed)="closed.emit()"
    >
      <div class="column">
        <form class="search" (ngSubmit)="queried.emit(words().trim())">
          <input
            name="words"
            i18n-name
            type="search"
            [ngModel]="words()"
            (ngModelChange)="words.set($event)"
            placeholder="Words; a phrase in quotes"
            i18n-placeholder
            aria-label="Words to find in time"
            i18n-aria-label
          />
          <button i18n matButton="filled" type="submit">Find</button>
        </form>
        @if (all(); as all) {
          <p class="count" role="status">
            {{ summary() }}
            @if (owns()) {
              <a
                i18n
                matButton
                [routerLink]="['/documents', document(), 'keeping']"
                [queryParams]="{ find: query() }"
              >
                Erase these words …
              </a>
            }
          </p>
          <svg [attr.viewBox]="'0 0 ' + width + ' 16'" class="when" aria-hidden="true">
            <line x1="0" [attr.x2]="width" y1="8" y2="8" />
            @for (bar of bars(); track bar.x) {
              <rect [attr.x]="bar.x" y="2" [attr.width]="bar.width" height="12" rx="1" />
            }
          </svg>
          @for (term of all.terms; track term.term) {
            @if (all.terms.length > 1) {
              <h3>“{{ term.term }}”</h3>
            }
            <ol>
              @for (one of term.appearances; track $index) {
                <li class="item">
                  <p class="quote">
                    <span class="said">{{ one.before }}</span><mark>{{ one.match }}</mark
                    ><span class="said">{{ one.after }}</span>
                  </p>
                  <p class="meta">
                    <span i18n>added by</span> <ox-who [id]="one.came.by" [people]="people()" />
                    {{ fullTime(one.came.at) }}
                    @if (one.went; as went) {
                      <span i18n>removed by</span> <ox-who [id]="went.by" [people]="people()" />
                      {{ fullTime(went.at) }}
                    } @else {
                      <strong i18n>still there</strong>
                    }
                  </p>
                  <div class="acts">
                    <button i18n matButton="outlined" type="button" (click)="gone.emit(cameTo(one))">
                      Show where it was added
                    </button>
                    @if (one.went) {
                      <button i18n matButton="outlined" type="button" (click)="gone.emit(wentFrom(one))">
                        Show where it was removed
                      </button>
                    }
                    <button
                      i18n
                      matButton="outlined"
                      type="button"
                      (click)="lived.emit({ seq: one.came.seq, position: one.position })"
                    >
                      Life of its passage
                    </button>
                  </div>
                </li>
              }
            </ol>
            @if (term.total > term.appearances.length) {
              <p i18n class="said">and {{ term.total - term.appearances.length }} earlier times</p>
            }
          }
        } @else if (!query()) {
          <p i18n class="none">
            Try a word that is missing now: you will see when it was there, who brought it and who took it
            out.
          </p>
        }
      </div>
    </ox-room>
  `,
  styleUrl: './find.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Find {
  readonly document = input.required<string>();
  readonly query = input.required<string>();
  /** Whether one owns the document, and may erase in it. */
  readonly owns = input(false);
  readonly traces = input.required<readonly Trace[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly queried = output<string>();
  readonly gone = output<Pick>();
  readonly lived = output<{ seq: number | null; position: number }>();
  readonly closed = output();

  private readonly api = inject(Api);
  protected readonly words = linkedSignal(() => this.query());
  protected readonly found = rxResource<FoundInTime | null, { document: string; q: string; head: number }>({
    params: () => ({ document: this.document(), q: this.query(), head: this.traces().length }),
    stream: ({ params }) => (params.q ? this.api.find(params.document, params.q) : of(null)),
  });
  protected readonly all = lasting<FoundInTime | null>(
    this.found,
    () => `${this.document()} ${this.query()}`,
  );
  protected readonly width = WIDTH;
  protected readonly bars = computed(() => {
    const moments = this.all()?.moments ?? [];
    const head = Math.max(1, this.traces().length);
    return moments.map(([came, went]) => {
      const x = (came / head) * WIDTH;
      return { x, width: Math.max(2, ((went === 0 ? head : went) / head) * WIDTH - x) };
    });
  });
  protected readonly summary = computed(() => {
    const found = this.all();
    if (!found) return '';
    const what = found.terms.map(({ term }) => `“${term}”`).join(' and ');
    const { moments } = found;
    const first = moments[0];
    if (!first)
      return $localize`${what} never stood in this document${found.terms.length > 1 ? $localize` together` : ''}.`;
    const last = moments.at(-1) ?? first;
    const now = last[1] === 0;
    const since = this.when(first[0]);
    if (moments.length === 1 && now) return $localize`${what} came ${since} and has been there ever since.`;
    const until = now ? $localize`is there now` : $localize`was there last ${this.when(last[1] - 1)}`;
    return $localize`${what} came ${since}, ${moments.length === 1 ? '' : $localize`was there ${moments.length} times, and `}${until}.`;
  });
  protected readonly fullTime = fullTime;
  protected readonly saidOf = saidOf;

  private when(seq: number): string {
    const first = this.traces()[0]?.seq ?? 1;
    const trace = this.traces()[seq - first];
    return trace ? dayAndTime(trace.at) : $localize`at the beginning`;
  }

  protected cameTo({ came }: Appearance): Pick {
    return { earlier: came.seq - 1, later: came.seq };
  }

  protected wentFrom({ went }: Appearance): Pick {
    const seq = went?.seq ?? 1;
    return { earlier: seq - 1, later: seq };
  }
}
