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
        <summary>{{ count(about().remarks.length, 'comment') }} came with it</summary>
        <ul>
          @for (remark of about().remarks; track $index) {
            <li>
              <span class="who">{{ remark.author || 'Somebody' }}{{ when(remark.at) }}</span>
              @if (remark.about) {
                on “{{ remark.about }}”:
              }
              {{ remark.text }}
            </li>
          }
        </ul>
      </details>
    }
    @if (about().leftOut.length > 0) {
      <p class="left">Left out, since a document cannot hold it: {{ leftOut() }}.</p>
    }
  `,
  styleUrl: './file-report.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileReport {
  readonly about = input.required<FileAbout>();

  protected readonly tracked = computed(() => {
    const { tracked } = this.about();
    const people = [...new Set(tracked.map(({ author }) => author || 'somebody unnamed'))];
    const named = people.length > 4 ? `${people.length} people` : people.join(', ');
    return `It holds ${this.count(tracked.length, 'tracked change')} by ${named}.`;
  });
  protected readonly leftOut = computed(() =>
    this.about()
      .leftOut.map(({ what, times }) => (times > 1 ? `${what} (${times} times)` : what))
      .join('; '),
  );

  protected count(number: number, what: string): string {
    return `${number} ${what}${number === 1 ? '' : 's'}`;
  }

  protected when(at: string): string {
    return at ? `, ${dayAndTime(at)},` : '';
  }
}
