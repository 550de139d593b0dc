import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { Person, TakeBackInput, TakeBackPreview } from '@oxbow/contract';
import { DeskActs } from '../document/acts';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';

/** Before what happened in a stretch of history is taken back: what that would do to the page, all of it or one person's part. */
@Component({
  selector: 'ox-taking-back',
  imports: [Choice, MatButtonModule, MatIconModule],
  template: `
    @if (people().length > 1) {
      <p i18n>
        What was done by
        <ox-choice label="By whom" i18n-label [of]="choices()" [(value)]="person" />
      </p>
    }
    @if (wrong()) {
      <p class="wrong" role="alert">{{ wrong() }}</p>
    } @else {
      @if (preview(); as preview) {
        @if (preview.conflict; as texts) {
          <p i18n role="alert">
            That cannot be taken back on its own: others have written inside what it brought. Nothing is
            guessed; these are the three texts.
          </p>
          <dl>
            <dt i18n>Before it</dt>
            <dd i18n>{!!texts.before, select, true {{{ texts.before }}} other {nothing}}</dd>
            <dt i18n>Now</dt>
            <dd i18n>{!!texts.now, select, true {{{ texts.now }}} other {nothing}}</dd>
            <dt i18n>Without it</dt>
            <dd i18n>{!!texts.after, select, true {{{ texts.after }}} other {nothing}}</dd>
          </dl>
        } @else if (preview.changes === 0) {
          <p i18n>Nothing of it is left to take back.</p>
        } @else {
          <p i18n>
            {preview.edits, plural, =1 {One edit is} other {{{ preview.edits }} edits are}} taken back and
            what came after stays: {{ preview.gist }}. +{{ preview.wordsAdded }} −{{ preview.wordsRemoved }}
            words. You can bring it again.
          </p>
        }
      } @else {
        <p i18n role="status">Working out what would change …</p>
      }
    }
    <div class="acts">
      @if (preview()?.changes) {
        <button matButton="filled" type="button" [disabled]="acts.busy()" (click)="take()">
          <mat-icon svgIcon="takeBack" /><ng-container i18n>Take it back </ng-container>
        </button>
      }
      <button i18n matButton type="button" (click)="done.emit(false)">Cancel</button>
    </div>
  `,
  styleUrl: './moment-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakingBack {
  readonly document = input.required<string>();
  /** The stretch: edits after one moment up to another. */
  readonly after = input.required<number>();
  readonly upTo = input.required<number>();
  /** Who had a hand in it. */
  readonly people = input.required<readonly Person[]>();
  /** Ends it; true when something was taken back. */
  readonly done = output<boolean>();

  protected readonly acts = inject(DeskActs);
  protected readonly person = signal('');
  protected readonly choices = computed((): Chosen<string>[] => [
    ['', $localize`everybody in this stretch`],
    ...this.people().map(({ id, name }): Chosen<string> => [id, name]),
  ]);
  protected readonly preview = signal<TakeBackPreview | null>(null);
  protected readonly wrong = signal('');
  private readonly asked = computed<TakeBackInput>(() => ({
    after: this.after(),
    upTo: this.upTo(),
    ...(this.person() ? { person: this.person() } : {}),
  }));

  constructor() {
    effect(() => {
      const [document, asked] = [this.document(), this.asked()];
      untracked(() => void this.look(document, asked));
    });
  }

  private async look(document: string, asked: TakeBackInput): Promise<void> {
    this.preview.set(null);
    this.wrong.set('');
    const { value, wrong } = await this.acts.previewTakeBack(document, asked);
    if (asked !== this.asked()) return;
    this.preview.set(value);
    this.wrong.set(wrong);
  }

  protected async take(): Promise<void> {
    if (await this.acts.takeBack(this.document(), this.asked())) this.done.emit(true);
  }
}
