import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import { Router } from '@angular/router';
import type { Returned, ReturnedFileForm } from '@oxbow/contract';
import { FORMATS, READ_ENDINGS } from '@oxbow/core/formats/about';
import { Api, saidOf } from '../api/api';
import { Calling } from '../api/calling';
import { AboutDocument } from '../document/about';
import { DeskHistory } from '../document/history';
import { lasting } from '../look/lasting';
import { saveFile } from '../look/save';
import { dayAndTime } from '../look/time';
import { Room } from './room';
import type { Passage, Take } from './passages';
import { numbersOf, shownOf, takeOf, takenOf } from './passages';

/** Most files at once. */
const MOST = 9;
/** Formats that redlines go out in. */
const FILES: readonly ReturnedFileForm['format'][] = ['docx', 'odt', 'html'];

/** Files that came back from readers: what each changed stands beside what the others did, and is decided passage by passage. */
@Component({
  selector: 'ox-returned',
  imports: [
    FormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatMenuModule,
    MatRadioModule,
    MatSelectModule,
    Room,
  ],
  templateUrl: './returned.html',
  styleUrl: './returned.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReturnedFiles {
  readonly document = input.required<string>();
  readonly mayWrite = input.required<boolean>();
  readonly closed = output();

  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly log = inject(DeskHistory);
  private readonly about = inject(AboutDocument);
  private readonly kind = computed(() => this.about.document()?.kind ?? 'text');
  protected readonly accepted = READ_ENDINGS.join(',');
  protected readonly formats = computed(() => FILES.filter((id) => FORMATS[id].kinds.includes(this.kind())));

  protected readonly files = signal<readonly File[]>([]);
  /** The moment that the readers had: the newest version after the first, until another is chosen. */
  protected readonly base = linkedSignal<number>(
    () => (this.log.versions().length > 1 ? this.log.versions()[0]?.seq : undefined) ?? this.log.head(),
  );
  protected readonly bases = computed(() => {
    const versions = this.log.versions().map(({ seq, label, at }) => ({
      seq,
      name: $localize`Version ${label}, ${dayAndTime(at)}`,
    }));
    const head = this.log.head();
    return versions[0]?.seq === head ? versions : [{ seq: head, name: $localize`As it is now` }, ...versions];
  });
  protected readonly refused = signal('');
  protected readonly found = rxResource({
    params: () =>
      this.files().length < 2
        ? undefined
        : { document: this.document(), base: this.base(), files: this.files() },
    stream: ({ params }) => this.api.gatherReturned(params.document, params.base, params.files),
  });
  private readonly asked = computed(
    () =>
      `${this.base()} ${this.files()
        .map(({ name }) => name)
        .join('/')}`,
  );
  protected readonly gathered = lasting<Returned>(this.found, this.asked);
  protected readonly takes = linkedSignal<string, ReadonlyMap<number, Take>>({
    source: this.asked,
    computation: () => new Map(),
  });
  protected readonly shown = computed(() => {
    const gathered = this.gathered();
    return gathered ? shownOf(gathered, this.takes()) : [];
  });
  protected readonly numbers = computed(() => numbersOf(this.gathered() ?? { lines: [] }));
  protected readonly disputed = computed(() =>
    (this.gathered()?.passages ?? []).filter(({ forms }) => forms.length > 1),
  );
  protected readonly open = computed(
    () => this.disputed().filter((passage) => takeOf(passage, this.takes()) === null).length,
  );
  private readonly calling = new Calling();
  protected readonly busy = this.calling.busy;
  protected readonly wrong = this.calling.wrong;
  protected note = '';
  protected readonly saidOf = saidOf;

  protected add(input: HTMLInputElement): void {
    const all = [...this.files(), ...(input.files ?? [])];
    this.refused.set(all.length > MOST ? $localize`At most ${MOST} files are brought together at once.` : '');
    this.files.set(all.slice(0, MOST));
    input.value = '';
  }

  protected remove(file: File): void {
    this.refused.set('');
    this.files.update((files) => files.filter((one) => one !== file));
  }

  protected offSaid({ name }: File): string {
    return $localize`Take ${name} off the list`;
  }

  protected taken(passage: Passage): Take | null {
    return takeOf(passage, this.takes());
  }

  protected take(id: number, take: Take): void {
    this.takes.update((takes) => new Map([...takes, [id, take]]));
  }

  protected takeAll(reader: number): void {
    this.takes.update((takes) => takenOf(reader, this.gathered()?.passages ?? [], takes));
  }

  protected takeNothing(): void {
    this.takes.set(new Map((this.gathered()?.passages ?? []).map(({ id }) => [id, 'base'])));
  }

  protected names(by: readonly number[]): string {
    const { readers = [] } = this.gathered() ?? {};
    return by.map((reader) => readers[reader]?.name ?? '').join(', ');
  }

  /** A form of a passage in words: its text, or where it stands. */
  protected said({ kind }: Passage, text: string): string {
    if (kind === 'place') return text ? $localize`behind “${text}”` : $localize`at the beginning`;
    if (kind === 'form') return text;
    return text.trim() ? `“${text.trim()}”` : $localize`nothing`;
  }

  protected choiceSaid({ id, where, about, base }: Passage): string {
    const number = this.numbers().get(id) ?? 0;
    const what = where ?? about ?? base.trim();
    return what
      ? $localize`Passage ${number}, what to take for ${what}`
      : $localize`Passage ${number}, what to take here`;
  }

  protected async put(): Promise<void> {
    const comment = this.note.trim() || undefined;
    const call = this.api.putReturned(this.document(), this.base(), this.files(), this.decided(), comment);
    const outcome = await this.calling.make(call);
    if (!outcome) return;
    void this.router.navigate(['/documents', this.document()], {
      queryParams: { earlier: outcome.seq - 1, later: outcome.seq },
    });
  }

  protected async save(format: ReturnedFileForm['format']): Promise<void> {
    const call = this.api.returnedFile(this.document(), this.base(), this.files(), this.decided(), format);
    const file = await this.calling.make(call);
    if (file) saveFile($localize`Returned files.${format}:FORMAT:`, file);
  }

  private decided(): (readonly [number, Take])[] {
    return [...this.takes()];
  }
}
