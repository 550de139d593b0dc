import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Guide } from './guide';
import { QUESTIONS } from './questions';
import { ACTS } from '../acting/acts';

/** What Oxbow Tide is for, said to whoever is here for the first time. */
@Component({
  selector: 'ox-first-visit',
  imports: [MatButtonModule],
  template: `
    @if (guide.offered()) {
      <section aria-label="What this is for" i18n-aria-label>
        <p i18n>
          <strong>Every moment of every document is kept, with whoever wrote it.</strong> So these have an
          answer here; pick one, or be shown all of them in a minute.
        </p>
        <ul>
          @for (one of questions; track one.question) {
            <li>
              <button type="button" (click)="guide.go($index)">{{ one.question }}</button>
            </li>
          }
        </ul>
        <div>
          <button matButton="filled" type="button" (click)="guide.go(0)">{{ acts.guide.label }}</button>
          <button i18n matButton type="button" (click)="guide.known()">Not now; it is in Help</button>
        </div>
      </section>
    }
  `,
  styles: `
    section {
      margin: 4px 0 14px;
      padding: 14px 18px 10px;
      background: var(--tide);
      border: 1px solid var(--line);
      border-inline-start: 4px solid var(--landmark);
      border-radius: var(--corner);
    }
    p {
      margin: 0 0 8px;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
      gap: 2px 16px;
      margin: 0 0 8px;
      padding: 0;
      list-style: none;
    }
    li button {
      width: 100%;
      padding: 4px 0;
      font: 600 16px/24px var(--serif);
      text-align: start;
      color: var(--accent);
      background: none;
      border: 0;
      cursor: pointer;
    }
    li button:hover {
      text-decoration: underline;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirstVisit {
  protected readonly acts = ACTS;
  protected readonly guide = inject(Guide);
  protected readonly questions = QUESTIONS;
}
