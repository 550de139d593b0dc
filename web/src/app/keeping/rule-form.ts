import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import { FEWEST_KEPT, KEEP_EVERYTHING, MOST_DAYS, MOST_KEPT } from '@oxbow/contract';
import type { Grain, KeepingRule, RulePreview } from '@oxbow/contract';
import { KeepingApi } from '../api/keeping-api';
import { Calling } from '../api/calling';
import { tryAgain } from '../api/refusals';
import { dayAndTime } from '../look/time';
import { KeepingRoom } from './keeping-room';
import { ruleSaid } from './words';

/** How versions are kept: set here, after a look at what would go. */
@Component({
  selector: 'ox-rule-form',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    MatRadioModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  templateUrl: './rule-form.html',
  styleUrl: './keeping.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleForm {
  private readonly api = inject(KeepingApi);
  protected readonly room = inject(KeepingRoom);
  protected readonly changing = signal(false);
  /** What would go under the rule in the form; null before it was looked at. */
  protected readonly preview = signal<RulePreview | null>(null);
  private readonly calling = new Calling();
  protected readonly looking = this.calling.busy;
  protected readonly wrong = this.calling.wrong;
  protected readonly bounds = { fewest: FEWEST_KEPT, most: MOST_KEPT, days: MOST_DAYS };
  protected readonly form = new FormGroup({
    keep: new FormControl<KeepingRule['keep']>('everything', { nonNullable: true }),
    last: new FormControl(20, { nonNullable: true, validators: whole(FEWEST_KEPT, MOST_KEPT) }),
    days: new FormControl(30, { nonNullable: true, validators: whole(0, MOST_DAYS) }),
    each: new FormControl<Grain>('day', { nonNullable: true }),
    cut: new FormControl<KeepingRule['cut']>('pauses', { nonNullable: true }),
    numbers: new FormControl<KeepingRule['numbers']>('minor', { nonNullable: true }),
    checkOut: new FormControl(false, { nonNullable: true }),
  });
  protected readonly keep = toSignal(this.form.controls.keep.valueChanges, {
    initialValue: 'everything' as const,
  });
  protected readonly going = computed(() =>
    (this.preview()?.documents ?? []).filter(({ go }) => go.length > 0),
  );
  protected readonly totals = computed(() => ({
    versions: this.going().reduce((sum, { go }) => sum + go.length, 0),
    letters: this.going().reduce((sum, { letters }) => sum + letters, 0),
  }));
  protected readonly dayAndTime = dayAndTime;
  protected readonly ruleSaid = ruleSaid;

  constructor() {
    effect(() => {
      const kept = this.room.rule();
      if (kept) untracked(() => this.form.reset({ ...blank, ...kept.rule }));
    });
    this.form.valueChanges.subscribe(() => this.preview.set(null));
  }

  /** Where the rule comes from, in words. */
  protected from(): string {
    const kept = this.room.rule();
    if (!kept || kept.from === 'nobody') return $localize`Nobody set a rule: this is how everything is kept.`;
    if (kept.from === 'collection' && this.room.isDocument()) return $localize`The rule of its collection.`;
    return this.room.isDocument() ? $localize`Set for this document.` : $localize`Set for this collection.`;
  }

  protected async look(): Promise<void> {
    tryAgain(this.form);
    if (!this.valid()) return;
    this.preview.set(await this.calling.make(this.api.previewRule(this.room.ruled(), this.rule())));
  }

  protected async set(): Promise<void> {
    const rule = this.rule();
    const said =
      this.totals().versions > 0
        ? $localize`The rule is set. What goes by it goes within the hour.`
        : $localize`The rule is set.`;
    if (await this.room.doing(this.api.setRule(this.room.ruled(), rule), said)) this.close();
  }

  protected async takeBack(): Promise<void> {
    if (
      await this.room.doing(
        this.api.setRule(this.room.ruled(), null),
        $localize`What is inherited counts again.`,
      )
    )
      this.close();
  }

  protected close(): void {
    this.changing.set(false);
    this.preview.set(null);
    const kept = this.room.rule();
    this.form.reset({ ...blank, ...(kept?.rule ?? KEEP_EVERYTHING) });
  }

  /** Agrees, as a second owner, to the rule that another set. */
  protected agree(rule: KeepingRule): void {
    void this.room.doing(this.api.setRule(this.room.ruled(), rule), $localize`You agreed to the rule.`);
  }

  /** Only what the kind of rule needs has to be right. */
  private valid(): boolean {
    const { keep, last, days } = this.form.controls;
    if (keep.value === 'last') return last.valid;
    return keep.value !== 'thinned' || days.valid;
  }

  private rule(): KeepingRule {
    const { keep, last, days, each, cut, numbers, checkOut } = this.form.getRawValue();
    const more = keep === 'last' ? { last } : keep === 'thinned' ? { days, each } : {};
    return { keep, cut, numbers, checkOut, ...more };
  }
}

const blank = { last: 20, days: 30, each: 'day' as Grain };

function whole(least: number, most: number) {
  return [Validators.required, Validators.min(least), Validators.max(most), Validators.pattern(/^\d+$/)];
}
