import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { writes } from '@oxbow/contract';
import type { DocumentSummary, Person } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { Calling } from '../api/calling';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';

/** Who has a document checked out; checks it out, in, or gives it up, in place. */
@Component({
  selector: 'ox-check-out-band',
  imports: [FormsModule, MatButtonModule, MatIconModule, ReactiveFormsModule],
  templateUrl: './check-out-band.html',
  styleUrl: '../look/band.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CheckOutBand {
  protected readonly writes = writes;
  readonly document = input.required<DocumentSummary>();
  readonly people = input.required<ReadonlyMap<string, Person>>();

  private readonly api = inject(Api);
  private readonly words = inject(Words);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  protected readonly live = inject(LiveDocument);
  protected readonly holder = computed(() => this.document().checkOut?.by ?? null);
  protected readonly mine = computed(() => this.holder() !== null && this.holder() === this.me()?.id);
  protected readonly name = computed(
    () => this.people().get(this.holder() ?? '')?.name ?? $localize`Somebody`,
  );
  protected readonly since = computed(() => {
    const since = this.document().checkOut?.since;
    return since ? dayAndTime(since) : '';
  });
  protected readonly doing = signal<'nothing' | 'checkingIn' | 'givingUp' | 'ending'>('nothing');
  private readonly calling = new Calling();
  private readonly putting = signal(false);
  protected readonly busy = computed(() => this.calling.busy() || this.putting());
  protected readonly wrong = this.calling.wrong;
  protected readonly comment = new FormControl('', { nonNullable: true });
  protected readonly major = new FormControl(false, { nonNullable: true });

  protected async checkOut(): Promise<void> {
    await this.calling.make(this.api.checkOut(this.document().id));
  }

  protected async checkIn(): Promise<void> {
    this.putting.set(true);
    const isIn = await this.live.putIn();
    this.putting.set(false);
    if (!isIn)
      return this.wrong.set($localize`The server cannot be reached; your work stays on this device.`);
    const call = this.api.checkIn(this.document().id, this.comment.value.trim(), this.major.value);
    const done = await this.calling.make(call);
    if (!done) return;
    const { version } = done;
    this.comment.setValue('');
    this.doing.set('nothing');
    this.words.say(
      version
        ? $localize`Checked in as version ${version.number} (${version.label}).`
        : $localize`Nothing was changed; the document is given back.`,
    );
  }

  /** Gives it up without trace: what was written meanwhile goes. */
  protected async giveUp(): Promise<void> {
    this.live.drop();
    await this.end();
  }

  protected async end(): Promise<void> {
    const { id, checkOut } = this.document();
    if (checkOut?.by) await this.calling.make(this.api.cancelCheckOut(id, checkOut.by));
    this.doing.set('nothing');
  }
}
