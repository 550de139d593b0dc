import { Clipboard } from '@angular/cdk/clipboard';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import type { AbstractControl, ValidationErrors } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { ReadingLink as Link } from '@oxbow/contract';
import { What } from '../acting/what';
import { saidOf } from '../api/api';
import { tryAgain } from '../api/refusals';
import { provideDates } from '../look/dates';
import { dayAndTime } from '../look/time';
import { SharingApi } from './sharing-api';
import { SharingRoom } from './sharing-room';
import { endOfDay } from './words';

/** The reading link of a document: making one, in place of the one before, and ending it. */
@Component({
  selector: 'ox-reading-link',
  imports: [
    What,
    MatButtonModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  providers: [provideDates()],
  templateUrl: './reading-link.html',
  styleUrl: './sharing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReadingLink {
  private readonly api = inject(SharingApi);
  private readonly clipboard = inject(Clipboard);
  protected readonly room = inject(SharingRoom);
  private readonly links = signal<readonly Link[] | null>(null);
  protected readonly trouble = signal('');
  protected readonly making = signal(false);
  /** Whether one is asked about before the link is ended. */
  protected readonly ending = signal(false);
  protected readonly current = computed(() => this.links()?.find(({ ended }) => ended === null) ?? null);
  protected readonly known = computed(() => this.links() !== null);
  protected readonly today = new Date();
  protected readonly form = new FormGroup({
    shows: new FormControl<Link['shows']>('now', { nonNullable: true }),
    password: new FormControl('', {
      nonNullable: true,
      validators: [Validators.minLength(6), Validators.maxLength(200)],
    }),
    until: new FormControl<Date | null>(null),
    frames: new FormControl('', { nonNullable: true, validators: [sites] }),
  });

  constructor() {
    effect(() => {
      const { id } = this.room.what();
      untracked(() => this.load(id));
    });
  }

  protected load(id: string): void {
    this.trouble.set('');
    this.api.links(id).subscribe({
      next: (links) => this.links.set(links),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected copy({ address }: Link): void {
    const done = this.clipboard.copy(address);
    this.room.said.set(
      done ? $localize`The address of the reading page is copied.` : $localize`Its address is ${address}`,
    );
  }

  protected make(): void {
    tryAgain(this.form);
    if (this.form.invalid || this.room.busy()) return;
    const { shows, password, until, frames } = this.form.getRawValue();
    const input = {
      shows,
      until: endOfDay(until),
      frames: sitesOf(frames),
      ...(password ? { password } : {}),
    };
    const { id } = this.room.what();
    this.room.doing(
      this.api.makeLink(id, input),
      () => {
        this.making.set(false);
        this.form.reset();
        this.done($localize`There is a reading link now; one that was before holds no more.`);
      },
      this.form,
    );
  }

  protected end({ id }: Link): void {
    this.ending.set(false);
    this.room.doing(this.api.endLink(this.room.what().id, id), () =>
      this.done($localize`The reading link holds no more.`),
    );
  }

  protected about({ shows, password, until, frames, visits, visited }: Link): string {
    return [
      shows === 'now' ? $localize`as it is now` : $localize`as it was at its latest landmark`,
      password ? $localize`for whoever knows the password` : $localize`for anybody who has the link`,
      ...(until ? [$localize`until ${dayAndTime(until)}`] : []),
      frames.length > 0
        ? $localize`in a frame on ${frames.join(', ')}`
        : $localize`in no frame of another site`,
      visits === 0
        ? $localize`not visited yet`
        : $localize`visited ${visits === 1 ? $localize`once` : $localize`${visits} times`}`,
      ...(visited ? [$localize`last ${dayAndTime(visited)}`] : []),
    ].join('; ');
  }

  private done(said: string): void {
    this.room.done(said);
    this.load(this.room.what().id);
  }
}

/** The addresses of sites in what was typed, as far as they go to a site. */
function sitesOf(typed: string): string[] {
  return typed
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((one) => (URL.canParse(one) ? new URL(one).origin : one));
}

/** What was typed are addresses of sites. */
function sites({ value }: AbstractControl<string>): ValidationErrors | null {
  return sitesOf(value).every((one) => /^https?:\/\/[a-z0-9.-]+(:\d+)?$/.test(one)) ? null : { sites: true };
}
