import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { Certificates } from './certificates';
import { Discards } from './discards';
import { Erase } from './erase';
import { KeepingRoom } from './keeping-room';
import type { Kept } from './keeping-room';
import { RuleForm } from './rule-form';

/** The keeping room: how long versions are kept, which were discarded, and what was erased. */
@Component({
  selector: 'ox-keeping',
  imports: [
    Certificates,
    Discards,
    Erase,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    RouterLink,
    RuleForm,
  ],
  providers: [KeepingRoom],
  template: `
    <header class="bar">
      <a class="back" [routerLink]="back()" [attr.aria-label]="wayBack()">
        <mat-icon svgIcon="oxbow" class="sign" />
      </a>
      <h1>
        @if (!room.name()) {
          <ng-container i18n> Keeping and erasing </ng-container>
        } @else if (room.isDocument()) {
          <ng-container i18n> Keeping and erasing “{{ room.name() }}” </ng-container>
        } @else {
          <ng-container i18n> Keeping and erasing in the collection “{{ room.name() }}” </ng-container>
        }
      </h1>
    </header>
    <main>
      @if (room.trouble()) {
        <p class="trouble" role="alert">
          {{ room.trouble() }} <button i18n matButton type="button" (click)="room.load()">Try again</button>
        </p>
      } @else if (!room.rule()) {
        <mat-progress-bar mode="indeterminate" aria-label="Fetching how it is kept" i18n-aria-label />
      }
      @if (room.rule()) {
        <ox-rule-form />
        @if (room.isDocument()) {
          @if (room.owns()) {
            <ox-discards />
            <ox-erase [find]="find()" [passage]="passage()" [version]="version()" [image]="image()" />
          }
          <ox-certificates />
        }
        <div class="told">
          <p role="status">{{ room.said() }}</p>
          <p class="trouble" role="alert">{{ room.refused() }}</p>
        </div>
      }
    </main>
  `,
  styleUrl: './keeping.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Keeping {
  /** Of the document or collection. */
  readonly id = input.required<string>();
  readonly kind = input.required<Kept['kind']>();
  /** What is to be erased, as the address gives it: words, a passage as `moment.from.to`, a version, an image. */
  readonly find = input<string>();
  readonly passage = input<string>();
  readonly version = input<string>();
  readonly image = input<string>();

  protected readonly room = inject(KeepingRoom);
  protected readonly back = computed(() => (this.kind() === 'documents' ? ['/documents', this.id()] : ['/']));
  protected readonly wayBack = computed(() =>
    this.room.isDocument() ? $localize`To the document` : $localize`To the shelf`,
  );

  constructor() {
    effect(() => {
      const what = { kind: this.kind(), id: this.id() };
      untracked(() => void this.room.open(what));
    });
  }
}
