import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import { writes } from '@oxbow/contract';
import type { ArrivedFile as File_, Letter, LikeDocument } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { Filing } from '../filing/filing';
import { LOCALE } from '../look/time';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import { shelf } from '../documents/shelf.store';
import { ArrivalEvents } from './arrivals.store';

const OWN = '';

/** A file of a message: where it could go, by what it reads like, and what became of it. */
@Component({
  selector: 'ox-arrived-file',
  imports: [Choice, FormsModule, MatButtonModule, MatProgressBarModule, ReactiveFormsModule, RouterLink],
  templateUrl: './arrived-file.html',
  styleUrl: './arrived-file.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrivedFile {
  readonly letter = input.required<Letter>();
  readonly file = input.required<File_>();
  readonly index = input.required<number>();

  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  private readonly filing = inject(Filing);
  private readonly documents = this.store.selectSignal(shelf.selectDocuments);

  protected readonly doing = signal<'nothing' | 'looking' | 'choosing' | 'filing'>('nothing');
  protected readonly wrong = signal('');
  protected readonly like = signal<readonly LikeDocument[]>([]);
  protected readonly target = new FormControl(OWN, { nonNullable: true });
  private readonly chosen = toSignal(this.target.valueChanges, { initialValue: OWN });
  protected readonly own = OWN;
  /** Documents one may write in that do not read like it. */
  protected readonly others = computed((): Chosen<string>[] => {
    const like = new Set(this.like().map(({ document }) => document));
    const others = this.documents().filter(({ id, role }) => writes(role) && !like.has(id));
    return [['', $localize`Choose …`], ...others.map(({ id, title }): Chosen<string> => [id, title])];
  });
  /** The chosen one, where it is one of those. */
  protected readonly another = computed(() => {
    const chosen = this.chosen();
    return this.others().some(([id]) => id === chosen) ? chosen : '';
  });
  protected readonly size = computed(() => {
    const { bytes } = this.file();
    const [unit, size, digits] =
      bytes < 1e6 ? ['kilobyte', Math.max(1, bytes / 1e3), 0] : ['megabyte', bytes / 1e6, 1];
    const parts = { style: 'unit', unit, maximumFractionDigits: digits } as const;
    return new Intl.NumberFormat(LOCALE, parts).format(size);
  });
  protected readonly address = computed(() => `/api/arrivals/${this.letter().id}/files/${this.index()}`);

  protected percent(likeness: number): string {
    return likeness > 0.995
      ? $localize`the same words`
      : $localize`${Math.max(1, Math.round(likeness * 100))} % alike`;
  }

  /** Looks for the documents it reads like. */
  protected async look(): Promise<void> {
    this.wrong.set('');
    this.doing.set('looking');
    try {
      const like = await firstValueFrom(this.api.likeArrived(this.letter().id, this.index()));
      this.like.set(like);
      this.target.setValue(like.find(({ mayWrite }) => mayWrite)?.document ?? OWN);
      this.doing.set('choosing');
    } catch (error) {
      this.fail(error);
    }
  }

  /** Opens the chosen document, compared with the file. */
  protected async compare(): Promise<void> {
    await this.router.navigate(['/documents', this.target.value], {
      queryParams: { arrival: this.letter().id, file: this.index() },
    });
  }

  protected async put(): Promise<void> {
    this.wrong.set('');
    this.doing.set('filing');
    const id = this.target.value;
    const title = this.documents().find((one) => one.id === id)?.title;
    try {
      const arrived = await this.filing.arrived(this.letter(), this.index(), this.file().name);
      const filed = await this.filing.arrivedOnTop(arrived, id ? { id, title: title ?? '' } : null);
      this.store.dispatch(ArrivalEvents.opened());
      this.doing.set(filed ? 'nothing' : 'choosing');
      if (filed)
        await this.router.navigate(['/documents', filed.document], {
          queryParams: id ? { earlier: filed.seq - 1, later: filed.seq } : {},
        });
    } catch (error) {
      this.fail(error);
    }
  }

  private fail(error: unknown): void {
    this.wrong.set(saidOf(error));
    this.doing.set('nothing');
  }
}
