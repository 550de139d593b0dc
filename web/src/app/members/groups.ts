import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Group, Member } from '@oxbow/contract';
import { finalize } from 'rxjs';
import type { Observable } from 'rxjs';
import { saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { MembershipApi } from '../api/membership-api';

/** The group that is being made: the others have ids. */
const NEW = 'new';

/** Groups of people, for administrators: making them, and saying who is in them. */
@Component({
  selector: 'ox-groups',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NgTemplateOutlet,
    ReactiveFormsModule,
  ],
  templateUrl: './groups.html',
  styleUrl: './members.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Groups {
  readonly people = input.required<readonly Member[]>();

  private readonly api = inject(MembershipApi);
  protected readonly groups = signal<readonly Group[] | null>(null);
  protected readonly trouble = signal('');
  protected readonly refused = signal('');
  protected readonly told = signal('');
  protected readonly busy = signal(false);
  /** The group that is being made or changed, by id. */
  protected readonly changing = signal<string | null>(null);
  /** The group that one is asked about before it is deleted, by id. */
  protected readonly asked = signal<string | null>(null);
  protected readonly form = new FormGroup({
    name: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.maxLength(200)],
    }),
    people: new FormControl<string[]>([], { nonNullable: true }),
  });
  protected readonly making = computed(() => this.changing() === NEW);

  constructor() {
    this.load();
  }

  protected load(): void {
    this.trouble.set('');
    this.api.groups().subscribe({
      next: (groups) => this.groups.set(groups),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected names(group: Group): string {
    const names = group.people.map(
      (id) => this.people().find((one) => one.id === id)?.name ?? $localize`somebody`,
    );
    return names.length === 0 ? $localize`nobody yet` : names.join(', ');
  }

  protected begin(group?: Group): void {
    this.refused.set('');
    this.form.reset({ name: group?.name ?? '', people: [...(group?.people ?? [])] });
    this.changing.set(group?.id ?? NEW);
  }

  protected keep(): void {
    tryAgain(this.form);
    const id = this.changing();
    if (this.form.invalid || this.busy() || id === null) return;
    const { name, people } = this.form.getRawValue();
    const call = id === NEW ? this.api.makeGroup(name, people) : this.api.changeGroup(id, { name, people });
    this.doing(call, $localize`${name.trim()} is kept.`);
  }

  protected remove(group: Group): void {
    this.asked.set(null);
    this.doing(this.api.deleteGroup(group.id), $localize`${group.name} is no group any more.`);
  }

  private doing(call: Observable<unknown>, told: string): void {
    this.told.set('');
    this.refused.set('');
    this.busy.set(true);
    call.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: () => {
        this.changing.set(null);
        this.told.set(told);
        this.load();
      },
      error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
    });
  }
}
