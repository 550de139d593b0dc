import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { dayAndTime } from '../look/time';
import { Who } from '../look/who';
import { session } from '../session/session.store';
import type { Pick } from '../tideline/tideline';
import { LastLook } from './last-look';

/** What is new since one's last look, with the walk through it; says so plainly when nothing was missed. */
@Component({
  selector: 'ox-fresh',
  imports: [MatButtonModule, Who],
  template: `
    @if (last.news(); as news) {
      <p role="status">
        @if (last.walking()) {
          <ng-container i18n>
            {{ last.progress().done }} of {{ last.progress().all }} changes seen since your last look.
          </ng-container>
        } @else {
          <ng-container i18n>
            New to you{{ since() }}:
            {news.sittings, plural, =1 {1 sitting} other {{{ news.sittings }} sittings}} by
          </ng-container>
          @for (id of news.people; track id) {
            <ox-who [id]="id" [people]="people()" />
          }
          @if (news.wordsIn + news.wordsOut > 0) {
            <ng-container i18n> +{{ news.wordsIn }} −{{ news.wordsOut }} words </ng-container>
          }
        }
      </p>
      @if (!last.walking() && last.walk(); as walk) {
        <button i18n matButton="filled" type="button" (click)="walked.emit(walk)">
          {!!last.look()?.upTo, select, true {Go on walking through it} other {Walk through it}}
        </button>
      }
      <button i18n matButton type="button" (click)="last.seen()">I have seen it</button>
    } @else if (last.look()?.at) {
      <p i18n class="quiet" role="status">Nothing was missed{{ since() }}.</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 12px;
      padding: 3px 16px;
      background: var(--tide);
      border-bottom: 1px solid var(--line);
    }
    :host:empty,
    :host(:not(:has(p))) {
      display: none;
    }
    p {
      margin: 0;
    }
    .quiet {
      color: var(--soft);
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Fresh {
  protected readonly last = inject(LastLook);
  protected readonly people = inject(Store).selectSignal(session.selectPeopleById);
  readonly walked = output<Pick>();

  protected readonly since = computed(() => {
    const at = this.last.look()?.at;
    return at ? $localize` since you last looked, ${dayAndTime(at)}` : '';
  });
}
