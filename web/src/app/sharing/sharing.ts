import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { provideNativeDateAdapter } from '@angular/material/core';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { Candidate, HistoryReach, Role, Share, Sharing as Told } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { catchError, debounceTime, finalize, map, of, switchMap } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { dayAndTime } from '../look/time';
import { Who } from '../look/who';
import { SessionEvents, session } from '../session/session.store';
import { SharingApi } from './sharing-api';
import { HISTORIES, ROLES, endOfDay, eventSaid, historyName, roleName } from './words';

/** Milliseconds of quiet after which people are looked for by what was typed. */
const QUIET = 200;

/** The sharing room: who has a document, and how; giving it to people and taking it back; what happened to that. */
@Component({
  selector: 'ox-sharing',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatProgressBarModule,
    MatSelectModule,
    ReactiveFormsModule,
    RouterLink,
    Who,
  ],
  providers: [provideNativeDateAdapter()],
  templateUrl: './sharing.html',
  styleUrl: './sharing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sharing {
  /** The document's id. */
  readonly id = input.required<string>();

  private readonly api = inject(SharingApi);
  private readonly documents = inject(Api);
  private readonly store = inject(Store);
  private readonly directive = viewChild(FormGroupDirective);
  protected readonly me = this.store.selectSignal(session.selectPerson);
  protected readonly people = this.store.selectSignal(session.selectPeopleById);
  protected readonly title = signal('');
  /** Who has it; null until that is known. */
  protected readonly told = signal<Told | null>(null);
  protected readonly trouble = signal('');
  protected readonly refused = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  /** Whose share is being changed, by id. */
  protected readonly changing = signal<string | null>(null);
  /** What is asked about before it is done: whose share ends, or everybody's. */
  protected readonly asked = signal<string | null>(null);
  /** People found by what was typed, by the address that it becomes. */
  private readonly found = new Map<string, Candidate>();
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
    role: new FormControl<Role>('editor', { nonNullable: true }),
    history: new FormControl<HistoryReach>('all', { nonNullable: true }),
    until: new FormControl<Date | null>(null),
    message: new FormControl('', { nonNullable: true, validators: [Validators.maxLength(2000)] }),
  });
  protected readonly change = new FormGroup({
    role: new FormControl<Role>('editor', { nonNullable: true }),
    history: new FormControl<HistoryReach>('all', { nonNullable: true }),
    until: new FormControl<Date | null>(null),
  });
  protected readonly candidates = toSignal(
    this.form.controls.email.valueChanges.pipe(
      debounceTime(QUIET),
      switchMap((typed) =>
        typed.trim().length < 2
          ? of<Candidate[]>([])
          : this.api.candidates(this.id(), typed.trim()).pipe(catchError(() => of<Candidate[]>([]))),
      ),
      map((found) => {
        for (const one of found) this.found.set(one.email, one);
        return found;
      }),
    ),
    { initialValue: [] as Candidate[] },
  );
  protected readonly others = computed(
    () => this.told()?.shares.filter(({ role }) => role !== 'owner') ?? [],
  );
  protected readonly roles = ROLES;
  protected readonly histories = HISTORIES;
  protected readonly roleName = roleName;
  protected readonly historyName = historyName;
  protected readonly dayAndTime = dayAndTime;
  protected readonly today = new Date();

  constructor() {
    effect(() => this.load(this.id()));
  }

  protected load(id: string): void {
    this.trouble.set('');
    this.documents.document(id).subscribe({
      next: ({ title }) => this.title.set(title),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
    this.api.sharing(id).subscribe({
      next: (told) => this.take(told),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected share(): void {
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    const { email, role, history, until, message } = this.form.getRawValue();
    const candidate = this.found.get(email);
    const whom = candidate ? { person: candidate.id } : { email };
    const how = { role, history, until: endOfDay(until), ...(message ? { message } : {}) };
    this.doing(this.api.share(this.id(), { ...whom, ...how }), (told) => {
      const isInvited = told.invited.some((one) => one.email === email.toLowerCase());
      this.said.set(
        isInvited
          ? `${email} is nobody here yet, and was invited as a guest; it is theirs as soon as they have come.`
          : `It is shared with ${candidate?.name ?? email}, who was written to.`,
      );
      this.directive()?.resetForm({ role, history: 'all', until: null, message: '', email: '' });
      this.take(told);
    });
  }

  protected beginChange({ person, role, history, until }: Share): void {
    this.change.setValue({ role, history, until: until === null ? null : new Date(until) });
    this.changing.set(person);
  }

  protected keepChange(person: string): void {
    const { role, history, until } = this.change.getRawValue();
    this.doing(this.api.change(this.id(), person, { role, history, until: endOfDay(until) }), () => {
      this.changing.set(null);
      this.said.set(`${this.name(person)} has it as ${roleName(role)} now.`);
      this.load(this.id());
    });
  }

  protected sendAgain(whom: { email: string } | { person: string }, name: string): void {
    this.doing(this.api.sendAgain(this.id(), whom), (told) => {
      this.said.set(`${name} was written to again.`);
      this.take(told);
    });
  }

  protected end(person: string): void {
    this.asked.set(null);
    this.doing(this.api.end(this.id(), person), () => {
      this.said.set(`It is not shared with ${this.name(person)} any more.`);
      this.load(this.id());
    });
  }

  protected endInvited(email: string): void {
    this.doing(this.api.endInvited(this.id(), email), () => {
      this.said.set(`${email} does not get it any more.`);
      this.load(this.id());
    });
  }

  protected endAll(): void {
    this.asked.set(null);
    this.doing(this.api.endAll(this.id()), () => {
      this.said.set('Only its owners have it now.');
      this.load(this.id());
    });
  }

  protected eventSaid(event: Told['events'][number]): string {
    return eventSaid(event, (id) => this.name(id));
  }

  protected name(id: string): string {
    return this.people().get(id)?.name ?? 'somebody';
  }

  private take(told: Told): void {
    this.told.set(told);
    const known = this.people();
    const stranger = told.shares.find(({ person }) => !known.has(person));
    if (stranger) this.store.dispatch(SessionEvents.strangerMet({ id: stranger.person }));
  }

  private doing<T>(call: Observable<T>, done: (value: T) => void): void {
    this.said.set('');
    this.refused.set('');
    this.busy.set(true);
    call.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: done,
      error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
    });
  }
}
