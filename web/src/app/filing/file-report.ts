import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { dayAndTime } from '../look/time';
import type { FileAbout } from '../worker/messages';

/** What came in a file beside its text: tracked changes, comments, and what had to be left out. */
@Component({
  selector: 'ox-file-report',
  template: `
    @if (about().tracked.length > 0) {
      <p>{{ tracked() }}</p>
    }
    @if (about().remarks.length > 0) {
      <details>
        <summary i18n>
          {about().remarks.length, plural, =1 {1 comment} other {{{ about().remarks.length }} comments}} came
          with it
        </summary>
        <ul>
          @for (remark of about().remarks; track $index) {
            <li>
              <span i18n class="who"
                >{!!remark.author, select, true {{{ remark.author }}} other {Somebody}
                }{{ when(remark.at) }}</span
              >
              @if (remark.about) {
                <ng-container i18n> on “{{ remark.about }}”: </ng-container>
              }
              {{ remark.text }}
            </li>
          }
        </ul>
      </details>
    }
    @if (about().leftOut.length > 0) {
      <p i18n class="left">Left out, since a document cannot hold it: {{ leftOut() }}.</p>
    }
  `,
  styleUrl: './file-report.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileReport {
  readonly about = input.required<FileAbout>();

  protected readonly tracked = computed(() => {
    const { tracked } = this.about();
    const people = [...new Set(tracked.map(({ author }) => author || $localize`somebody unnamed`))];
    const named = people.length > 4 ? $localize`${people.length} people` : people.join(', ');
    return tracked.length === 1
      ? $localize`It holds 1 tracked change by ${named}.`
      : $localize`It holds ${tracked.length} tracked changes by ${named}.`;
  });
  protected readonly leftOut = computed(() =>
    this.about()
      .leftOut.map(({ what, times }) => (times > 1 ? $localize`${what} (${times} times)` : what))
      .join('; '),
  );

  protected when(at: string): string {
    return at ? `, ${dayAndTime(at)},` : '';
  }
}
