import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import { LEAST_SOUGHT } from '@oxbow/contract';
import type { ErasurePreview, ErasureWish, Person } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { Calling } from '../api/calling';
import { KeepingApi } from '../api/keeping-api';
import { tryAgain } from '../api/refusals';
import { session } from '../session/session.store';
import { KeepingRoom } from './keeping-room';
import { extentSaid, placesSaid } from './words';

type What = 'find' | 'account' | 'card' | 'version' | 'person' | 'passage' | 'image';

/** Erases something for good: what it is, everything that holds it, why, and then. */
@Component({
  selector: 'ox-erase',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatRadioModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  templateUrl: './erase.html',
  styleUrl: './keeping.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Erase {
  readonly find = input<string>();
  readonly passage = input<string>();
  readonly version = input<string>();
  readonly image = input<string>();

  private readonly api = inject(KeepingApi);
  private readonly everybody = inject(Store).selectSignal(session.selectPeople);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  protected readonly room = inject(KeepingRoom);
  private readonly calling = new Calling();
  protected readonly looking = this.calling.busy;
  protected readonly wrong = this.calling.wrong;
  protected readonly open = signal(false);
  protected readonly preview = signal<ErasurePreview | null>(null);
  private readonly found = viewChild<ElementRef<HTMLElement>>('found');
  protected readonly least = LEAST_SOUGHT;
  protected readonly form = new FormGroup({
    what: new FormControl<What>('find', { nonNullable: true }),
    find: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.minLength(LEAST_SOUGHT), Validators.maxLength(200)],
    }),
    version: new FormControl('', {
      nonNullable: true,
      validators: [Validators.pattern(/^\d{1,9}$/), Validators.required],
    }),
    person: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    from: new FormControl('', { nonNullable: true, validators: [Validators.pattern(/^\d{1,9}$/)] }),
    to: new FormControl('', { nonNullable: true, validators: [Validators.pattern(/^\d{1,9}$/)] }),
  });
  protected readonly what = toSignal(this.form.controls.what.valueChanges, { initialValue: 'find' as What });
  protected readonly reason = new FormControl('', {
    nonNullable: true,
    validators: [Validators.required, Validators.pattern(/\S/), Validators.maxLength(500)],
  });
  protected readonly people = computed((): Person[] => {
    const me = this.me();
    return [...this.everybody(), ...(me && !this.everybody().some(({ id }) => id === me.id) ? [me] : [])];
  });
  protected readonly extentSaid = extentSaid;
  protected readonly placesSaid = placesSaid;

  constructor() {
    effect(() => {
      const [find, passage, version, image] = [this.find(), this.passage(), this.version(), this.image()];
      untracked(() => this.begin({ find, passage, version, image }));
    });
    this.form.valueChanges.subscribe(() => this.preview.set(null));
  }

  /** Begins with what the address says is to be erased. */
  private begin(given: Record<'find' | 'passage' | 'version' | 'image', string | undefined>): void {
    const [what] = (['passage', 'image', 'version', 'find'] as const).filter(
      (one) => given[one] !== undefined,
    );
    if (!what) return;
    this.open.set(true);
    this.form.patchValue({
      what,
      ...(given.find === undefined ? {} : { find: given.find }),
      ...(given.version === undefined ? {} : { version: given.version }),
    });
    if (what !== 'find') void this.look();
  }

  protected async look(): Promise<void> {
    tryAgain(this.form);
    const wish = this.wish();
    if (!wish) return;
    this.reason.reset();
    this.preview.set(await this.calling.make(this.api.previewErasure(this.room.what().id, wish)));
    if (this.preview()) setTimeout(() => this.found()?.nativeElement.focus());
  }

  protected async erase({ id, needsSecond }: ErasurePreview): Promise<void> {
    this.reason.markAsTouched();
    if (this.reason.invalid) return;
    const said = needsSecond ? $localize`Another owner is asked to agree.` : $localize`It is being erased.`;
    const call = this.api.erase(this.room.what().id, id, this.reason.value.trim());
    if (await this.room.doing(call, said)) this.close();
  }

  protected close(): void {
    this.open.set(false);
    this.preview.set(null);
    this.form.reset();
    this.reason.reset();
  }

  /** What the form says is to be erased; null where it does not say enough. */
  private wish(): ErasureWish | null {
    const { what, find, version, person, from, to } = this.form.controls;
    switch (what.value) {
      case 'find':
        return find.valid ? { find: find.value } : null;
      case 'account':
      case 'card':
        return { numbers: what.value };
      case 'version':
        return version.valid ? { versions: [Number(version.value)] } : null;
      case 'person': {
        if (person.invalid || from.invalid || to.invalid) return null;
        return {
          person: person.value,
          ...(from.value ? { from: from.value } : {}),
          ...(to.value ? { to: to.value } : {}),
        };
      }
      case 'image':
        return { image: this.image() ?? '' };
      case 'passage': {
        const [moment = 0, start = 0, end = 0] = (this.passage() ?? '').split('.').map(Number);
        return { passage: { moment, from: start, to: end } };
      }
    }
  }
}
