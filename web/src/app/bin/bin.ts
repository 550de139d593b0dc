import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { BinnedDocument } from '@oxbow/contract';
import { finalize } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { dayAndTime } from '../look/time';

/** The bin: documents of one's own that were put there, to be put back or deleted for good. */
@Component({
  selector: 'ox-bin',
  imports: [MatButtonModule, MatIconModule, MatProgressBarModule, RouterLink],
  templateUrl: './bin.html',
  styleUrl: './bin.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Bin {
  private readonly api = inject(Api);
  /** Null until it is known what is there. */
  protected readonly documents = signal<readonly BinnedDocument[] | null>(null);
  protected readonly trouble = signal('');
  protected readonly refused = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  /** The document one is asked about before it is deleted for good, by id. */
  protected readonly asked = signal<string | null>(null);
  protected readonly dayAndTime = dayAndTime;

  constructor() {
    this.load();
  }

  protected load(): void {
    this.trouble.set('');
    this.api.binned().subscribe({
      next: (documents) => this.documents.set(documents),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected losing({ goes }: BinnedDocument): string {
    if (goes.people === 0) return $localize`You had it alone.`;
    return goes.people === 1
      ? $localize`One other person had it.`
      : $localize`${goes.people} other people had it.`;
  }

  protected putBack(document: BinnedDocument): void {
    this.doing(
      this.api.putBack(document.id),
      $localize`“${document.title}” is back; whoever had it has it again.`,
    );
  }

  protected delete(document: BinnedDocument): void {
    this.asked.set(null);
    this.doing(this.api.deleteForGood(document.id), $localize`“${document.title}” is deleted for good.`);
  }

  private doing(call: Observable<unknown>, said: string): void {
    this.said.set('');
    this.refused.set('');
    this.busy.set(true);
    call.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: () => {
        this.said.set(said);
        this.load();
      },
      error: (error: unknown) => this.refused.set(saidOf(error)),
    });
  }
}
