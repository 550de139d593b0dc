import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { FoundInTime, FoundLandmark, FoundPage } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { catchError, forkJoin, of, throwError } from 'rxjs';
import type { Observable } from 'rxjs';
import { HttpErrorResponse } from '@angular/common/http';
import { Api, saidOf } from '../api/api';
import { dayAndTime } from '../look/time';
import { Who } from '../look/who';
import { session } from '../session/session.store';

interface Found {
  readonly landmarks: readonly FoundLandmark[];
  readonly documents: FoundPage;
}

/** Finds landmarks by name, and words in every moment of every document one may see. */
@Component({
  selector: 'ox-find-all',
  imports: [FormsModule, MatButtonModule, MatProgressBarModule, RouterLink, Who],
  template: `
    <form class="search" (ngSubmit)="asked.set(words.trim())">
      <input
        name="words"
        i18n-name
        type="search"
        [(ngModel)]="words"
        (search)="asked.set(words.trim())"
        placeholder="Find words in every version, or a landmark by name"
        i18n-placeholder
        aria-label="Find words in every version, or a landmark"
        i18n-aria-label
      />
      <button i18n matButton="outlined" type="submit">Find</button>
      @if (asked()) {
        <button i18n matButton type="button" (click)="clear()">Show the shelf</button>
      }
    </form>
    @if (found.isLoading()) {
      <mat-progress-bar mode="indeterminate" aria-label="Looking through every version" i18n-aria-label />
    }
    @if (found.error(); as error) {
      <p class="trouble" role="alert">{{ saidOf(error) }}</p>
    }
    @if (asked() && found.hasValue() && found.value(); as all) {
      <section aria-label="What was found" i18n-aria-label>
        @for (landmark of all.landmarks; track landmark.id) {
          <article>
            <a
              [routerLink]="['/documents', landmark.document, 'landmarks', landmark.name]"
              class="landmark"
              >{{ landmark.name }}</a
            >
            <span i18n class="soft">in {{ landmark.title }}, named {{ dayAndTime(landmark.at) }}</span>
            <p>{{ landmark.note }}</p>
          </article>
        }
        @for (document of all.documents.items.concat(added()); track document.document) {
          <article>
            <a
              [routerLink]="['/documents', document.document]"
              [queryParams]="{ room: 'find', q: asked() }"
              class="title"
              >{{ document.title }}</a
            >
            <span class="soft">{{ when(document) }}</span>
            @for (term of document.terms; track term.term) {
              @for (one of term.appearances.slice(0, 2); track $index) {
                <p class="quote">
                  <span class="soft">… {{ one.before }}</span
                  ><mark>{{ one.match }}</mark
                  ><span class="soft">{{ one.after }} …</span>
                  @if (one.went; as went) {
                    <span i18n class="soft note">
                      taken out by <ox-who [id]="went.by" [people]="people()" /> {{ dayAndTime(went.at) }}
                    </span>
                  }
                </p>
              }
            }
          </article>
        }
        @if (next()) {
          <button i18n matButton="outlined" type="button" [disabled]="adding()" (click)="more()">
            Show more documents
          </button>
          @if (adding()) {
            <mat-progress-bar
              mode="indeterminate"
              aria-label="Looking through more documents"
              i18n-aria-label
            />
          }
          @if (trouble()) {
            <p class="trouble" role="alert">{{ trouble() }}</p>
          }
        }
        @if (all.landmarks.length === 0 && all.documents.items.length === 0) {
          <p i18n role="status">
            No document you may see ever held “{{ asked() }}”, and no landmark is named so.
          </p>
        }
      </section>
    }
  `,
  styleUrl: './find-all.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindAll {
  private readonly api = inject(Api);
  protected readonly people = inject(Store).selectSignal(session.selectPeopleById);
  protected words = '';
  protected readonly asked = signal('');
  protected readonly found = rxResource<Found | null, string>({
    params: () => this.asked(),
    stream: ({ params: q }): Observable<Found | null> =>
      q ? forkJoin({ landmarks: this.api.findLandmarks(q), documents: this.inTime(q) }) : of(null),
  });
  /** Pages after the first, for the words that are asked for. */
  private readonly later = linkedSignal<string, readonly FoundPage[]>({
    source: this.asked,
    computation: () => [],
  });
  protected readonly adding = signal(false);
  protected readonly trouble = signal('');
  protected readonly added = computed(() => this.later().flatMap(({ items }) => items));
  protected readonly next = computed(() => {
    const last = this.later().at(-1) ?? (this.found.hasValue() ? this.found.value()?.documents : null);
    return last?.next ?? null;
  });
  protected readonly dayAndTime = dayAndTime;
  protected readonly saidOf = saidOf;

  /** Signs alone name no word; a landmark may still be named so. */
  private inTime(q: string): Observable<FoundPage> {
    return this.api
      .findEverywhere(q)
      .pipe(
        catchError((error: unknown) =>
          error instanceof HttpErrorResponse && error.status === 422
            ? of({ items: [], next: null })
            : throwError(() => error),
        ),
      );
  }

  /** Looks through the documents after those that are shown. */
  protected more(): void {
    const [q, cursor] = [this.asked(), this.next()];
    if (!cursor) return;
    this.adding.set(true);
    this.trouble.set('');
    this.api.findEverywhere(q, cursor).subscribe({
      next: (page) => {
        this.adding.set(false);
        if (q === this.asked()) this.later.update((pages) => [...pages, page]);
      },
      error: (error: unknown) => {
        this.adding.set(false);
        this.trouble.set(saidOf(error));
      },
    });
  }

  protected clear(): void {
    this.words = '';
    this.asked.set('');
  }

  protected when({ moments, terms }: FoundInTime): string {
    const times = terms.reduce((sum, { total }) => sum + total, 0);
    const now = moments.some(([, went]) => went === 0);
    return `${now ? $localize`there now` : $localize`there once, not now`}; ${times === 1 ? $localize`came about once` : $localize`came about ${times} times`}`;
  }
}
