import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, resource } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { PassageForm, PassageLife, Person } from '@oxbow/contract';
import { compareTexts } from '@oxbow/core/compare';
import { Api, saidOf } from '../api/api';
import type { OverTimeInputs } from '../document/kinds';
import { kindOnDesk, saying } from '../document/says';
import { colourOf } from '../look/colours';
import { fullTime } from '../look/time';
import { Who } from '../look/who';
import type { Pick } from '../tideline/tideline';
import { Room } from './room';

const TURNS: Record<PassageForm['turn'], string> = {
  written: $localize`wrote it`,
  copied: $localize`copied it from elsewhere`,
  changed: $localize`changed it`,
  split: $localize`split it; elsewhere now:`,
  joined: $localize`joined it with:`,
  moved: $localize`moved it`,
  removed: $localize`removed it`,
  returned: $localize`brought it back`,
};

/** One passage through all its forms, from its birth to now or to its removal. */
@Component({
  selector: 'ox-life',
  imports: [MatButtonModule, NgComponentOutlet, Room, Who],
  template: `
    <ox-room
      noun="life"
      name="Passage life"
      i18n-name
      about="One paragraph through all its forms, in the order in which it took them."
      i18n-about
      [busy]="found.isLoading()"
      [trouble]="found.error() ? saidOf(found.error()) : ''"
      (again)="found.reload()"
      (closed)="closed.emit()"
    >
      <div class="column">
        @if (overTime.hasValue()) {
          <ng-container [ngComponentOutlet]="overTime.value()" [ngComponentOutletInputs]="place()" />
        }
        @for (contest of life()?.contests ?? []; track $index) {
          <div class="item contest">
            <p i18n class="meta">Wording that went back and forth</p>
            <p i18n class="quote">
              “{!!contest.one, select, true {{{ contest.one }}} other {nothing}}” or “{!!contest.other, select,
                true {{{ contest.other }}}
                other {nothing}

              }”
            </p>
            <ul>
              @for (turn of contest.turns; track turn.seq) {
                <li i18n>
                  <ox-who [id]="turn.by" [people]="people()" /> “{!!turn.wording, select,
                    true {{{ turn.wording }}}
                    other {nothing}

                  }”,
                  {{ fullTime(turn.at) }}
                </li>
              }
            </ul>
          </div>
        }
        @if (forms().length > 0) {
          <p i18n class="count">{forms().length, plural, =1 {One form} other {{{ forms().length }} forms}}</p>
        }
        <ol>
          @for (form of forms(); track form.seq) {
            <li class="item" [style.--who]="form.colour" [class.now]="form.until === null">
              <p class="meta">
                <ox-who [id]="form.by" [people]="people()" /> {{ form.deed }} {{ fullTime(form.at) }}
                @if (form.until === null && form.turn !== 'removed') {
                  <strong i18n>as it is now</strong>
                }
              </p>
              @for (other of form.with; track $index) {
                <p class="quote other">{{ other }}</p>
              }
              <p class="quote">
                @for (piece of form.pieces; track $index) {
                  @switch (piece.side) {
                    @case ('earlier') {
                      <del>{{ piece.text }}</del>
                    }
                    @case ('later') {
                      <ins>{{ piece.text }}</ins>
                    }
                    @default {
                      <span>{{ piece.text }}</span>
                    }
                  }
                }
              </p>
              <div class="acts">
                <button
                  i18n
                  matButton="outlined"
                  type="button"
                  (click)="gone.emit({ earlier: form.seq - 1, later: form.seq })"
                >
                  Go to that moment
                </button>
              </div>
            </li>
          }
        </ol>
      </div>
    </ox-room>
  `,
  styleUrl: './life.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Life {
  readonly document = input.required<string>();
  /** Moment and position in it, as `SEQ.POSITION`. */
  readonly passage = input.required<string>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly gone = output<Pick>();
  readonly closed = output();

  private readonly api = inject(Api);
  protected readonly found = rxResource({
    params: () => {
      const [seq, position] = this.passage().split('.').map(Number);
      return { document: this.document(), seq: seq ?? 0, position: position ?? 0 };
    },
    stream: ({ params }) => this.api.life(params.document, params.seq, params.position),
  });
  private readonly kind = kindOnDesk();
  /** What tells of the place over time, where the kind of document has that. */
  protected readonly overTime = resource({
    params: () => this.kind()?.overTime,
    loader: ({ params }) => params(),
  });
  protected readonly place = computed<Record<string, unknown>>(() => {
    const [seq = 0, position = 0] = this.passage().split('.').map(Number);
    const inputs: OverTimeInputs = { document: this.document(), seq, position };
    return { ...inputs };
  });
  private readonly says = saying();
  protected readonly life = computed<PassageLife | null>(() =>
    this.found.hasValue() ? this.found.value() : null,
  );
  protected readonly forms = computed(() => {
    const forms = this.life()?.forms ?? [];
    return forms.map((form, i) => ({
      ...form,
      deed: TURNS[form.turn],
      colour: colourOf(this.people().get(form.by)?.colour ?? 0),
      pieces:
        i === 0
          ? [{ side: 'both' as const, text: this.says()(form.text) }]
          : compareTexts(this.says()(forms[i - 1]?.text ?? ''), this.says()(form.text)),
    }));
  });
  protected readonly fullTime = fullTime;
  protected readonly saidOf = saidOf;
}
