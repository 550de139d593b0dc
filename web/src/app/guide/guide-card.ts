import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Guide } from './guide';
import { QUESTIONS } from './questions';

/** The question one is shown the answer of, over the room that answers it. */
@Component({
  selector: 'ox-guide-card',
  imports: [MatButtonModule],
  template: `
    @if (guide.question(); as shown) {
      <section
        aria-label="Shown round"
        i18n-aria-label
        aria-live="polite"
        tabindex="-1"
        (keydown.escape)="guide.stop()"
      >
        <p i18n class="count">{{ (guide.at() ?? 0) + 1 }} of {{ count }}</p>
        <h2>{{ shown.question }}</h2>
        <p>{{ shown.answer }}</p>
        <div class="ends">
          <button i18n matButton type="button" (click)="guide.stop()">Stop</button>
          <span class="space"></span>
          @if ((guide.at() ?? 0) > 0) {
            <button i18n matButton="outlined" type="button" (click)="guide.go((guide.at() ?? 0) - 1)">
              Back
            </button>
          }
          <button i18n matButton="filled" type="button" (click)="guide.go((guide.at() ?? 0) + 1)">
            {(guide.at() ?? 0) + 1 < count, select, true {Next} other {Done}}
          </button>
        </div>
      </section>
    }
  `,
  styles: `
    section {
      position: fixed;
      z-index: 20;
      top: 56px;
      inset-inline-end: 16px;
      width: min(340px, calc(100vw - 32px));
      padding: 14px 16px 10px;
      background: var(--page);
      border: 1px solid var(--line);
      border-inline-start: 4px solid var(--landmark);
      border-radius: var(--corner);
      box-shadow: var(--float);
    }
    h2 {
      margin: 2px 0 6px;
      font: 600 18px/24px var(--serif);
    }
    p {
      margin: 0;
    }
    .count {
      color: var(--soft);
      font-size: 12.5px;
    }
    .ends {
      display: flex;
      gap: 8px;
      margin-top: 12px;
    }
    .space {
      flex: 1;
    }
    @media print {
      section {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GuideCard {
  protected readonly guide = inject(Guide);
  protected readonly count = QUESTIONS.length;
}
