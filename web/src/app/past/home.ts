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
import { MatRadioModule } from '@angular/material/radio';
import { Router, RouterLink } from '@angular/router';
import type { Homecoming, HomecomingInput } from '@oxbow/contract';
import { Api, saidOf } from '../api/api';
import { Calling } from '../api/calling';
import { lasting } from '../look/lasting';
import { Room } from './room';

type Take = HomecomingInput['settled'][number]['take'];
type Conflict = Homecoming['conflicts'][number];

/** Brings a copy home to the document it came from; what both changed differently is decided here, one by one. */
@Component({
  selector: 'ox-home',
  imports: [FormsModule, MatButtonModule, MatRadioModule, Room, RouterLink],
  templateUrl: './home.html',
  styleUrl: './home.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Home {
  readonly document = input.required<string>();
  readonly head = input.required<number>();
  readonly closed = output();

  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly found = rxResource({
    params: () => ({ document: this.document(), head: this.head() }),
    stream: ({ params }) => this.api.homecoming(params.document),
  });
  protected readonly home = lasting<Homecoming>(this.found, this.document);
  /** What was decided, by conflict; kept when the documents go on and the conflict is the same. */
  protected readonly taken = linkedSignal<Homecoming | null, ReadonlyMap<number, Take>>({
    source: this.home,
    computation: (home, before) => {
      const old = before?.source;
      if (!home || !old) return before?.value ?? new Map();
      const same = (id: number): boolean =>
        JSON.stringify(old.conflicts[id]) === JSON.stringify(home.conflicts[id]);
      return new Map([...before.value].filter(([id]) => same(id)));
    },
  });
  protected readonly open = computed(
    () => (this.home()?.conflicts ?? []).filter(({ id }) => !this.taken().has(id)).length,
  );
  private readonly calling = new Calling();
  protected readonly busy = this.calling.busy;
  protected readonly wrong = this.calling.wrong;
  protected note = '';
  protected readonly saidOf = saidOf;

  /** A side of a conflict in words: its text, its form, or where it stands. */
  protected said({ kind, ...sides }: Conflict, side: 'base' | 'origin' | 'copy'): string {
    const text = sides[side];
    if (kind === 'place') return text ? $localize`behind “${text}”` : $localize`at the beginning`;
    if (kind === 'form') return text;
    return text ? `“${text}”` : $localize`nothing`;
  }

  protected choiceSaid({ where, about, base }: Conflict): string {
    const what = where ?? about ?? base;
    return what ? $localize`What to take for ${what}` : $localize`What to take for a place that was empty`;
  }

  protected take(id: number, take: Take): void {
    this.taken.update((taken) => new Map([...taken, [id, take]]));
  }

  protected takeAll(take: Take): void {
    this.taken.set(new Map((this.home()?.conflicts ?? []).map(({ id }) => [id, take])));
  }

  protected async bring(): Promise<void> {
    const home = this.home();
    if (!home) return;
    const settled = [...this.taken()].map(([id, take]) => ({ id, take }));
    const { seq, originSeq, origin } = home;
    const comment = this.note.trim() || undefined;
    const call = this.api.bringHome(this.document(), { seq, originSeq, settled, comment });
    const outcome = await this.calling.make(call);
    if (!outcome) return void this.found.reload();
    void this.router.navigate(['/documents', origin.document], {
      queryParams: { earlier: outcome.seq - 1, later: outcome.seq },
    });
  }
}
