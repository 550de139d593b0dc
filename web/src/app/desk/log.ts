import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatTableModule } from '@angular/material/table';
import type { Person, Version } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { ago, dayAndTime } from '../look/time';

const CAUSES: Record<Version['cause'], string> = {
  beginning: 'the blank beginning',
  pause: 'a pause',
  run: 'a long run of writing',
  restore: 'brought back',
  filing: 'a file',
  asked: 'kept on request',
};

/** The same history as a plain table of versions, newest first. */
@Component({
  selector: 'ox-log',
  imports: [MatTableModule],
  templateUrl: './log.html',
  styleUrl: './log.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Log {
  readonly versions = input.required<readonly Version[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly picked = input.required<number | null>();
  readonly chosen = output<Version>();

  protected readonly columns = ['number', 'at', 'who', 'gist', 'words', 'cause'];
  protected readonly rows = computed(() =>
    this.versions().map((version) => ({
      version,
      who: version.authors.flatMap((id) => this.people().get(id) ?? []),
      cause: CAUSES[version.cause],
    })),
  );
  protected readonly colourOf = colourOf;
  protected readonly dayAndTime = dayAndTime;
  protected readonly ago = ago;
}
