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
          {{ last.progress().done }} of {{ last.progress().all }} changes seen since your last look.
        } @else {
          New to you{{ since() }}: {{ news.sittings === 1 ? '1 sitting' : news.sittings + ' sittings' }} by
          @for (id of news.people; track id) {
            <ox-who [id]="id" [people]="people()" />
          }
          +{{ news.wordsIn }} −{{ news.wordsOut }} words
        }
      </p>
      @if (!last.walking() && last.walk(); as walk) {
        <button matButton="filled" type="button" (click)="walked.emit(walk)">
          {{ last.look()?.upTo ? 'Go on walking through it' : 'Walk through it' }}
        </button>
      }
      <button matButton type="button" (click)="last.seen()">I have seen it</button>
    } @else if (last.look()?.at) {
      <p class="quiet" role="status">Nothing was missed{{ since() }}.</p>
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
    return at ? ` since you last looked, ${dayAndTime(at)}` : '';
  });
}
