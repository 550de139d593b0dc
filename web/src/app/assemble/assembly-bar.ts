import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Router } from '@angular/router';
import type { AssembledFileInput, Outcome, Person } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import { FORMATS } from '@oxbow/core/formats/about';
import { Store } from '@ngrx/store';
import { Acting } from '../acting/acting';
import { Api } from '../api/api';
import { Calling } from '../api/calling';
import { Choice } from '../look/choice';
import { formatsOf } from '../look/formats';
import { saveFile } from '../look/save';
import { Comparing } from '../reading/comparing';
import { renameOf } from '../reading/look';
import { offersBoth } from '../reading/switch';
import { shelf } from '../documents/shelf.store';
import { Assembling } from './assembling';

const SIDES: readonly { take: Decision; name: string; about: string }[] = [
  { take: 'earlier', name: $localize`Earlier`, about: $localize`Take the earlier side and go on (1)` },
  { take: 'both', name: $localize`Both`, about: $localize`Keep both and go on (2)` },
  { take: 'later', name: $localize`Later`, about: $localize`Take the later side and go on (3)` },
];
const FAMILIES: Record<string, string> = {
  text: $localize`Changes of the text`,
  form: $localize`Changes of form`,
  moved: $localize`Moves`,
  typography: $localize`Typography`,
};

/** Below a comparison while one assembles: the change in hand, groups of changes, and where what comes of it goes. */
@Component({
  selector: 'ox-assembly-bar',
  imports: [Choice, FormsModule, MatButtonModule, MatIconModule, MatMenuModule, ReactiveFormsModule],
  templateUrl: './assembly-bar.html',
  styleUrl: './assembly-bar.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', '[attr.aria-label]': 'ownName' },
})
export class AssemblyBar {
  protected readonly ownName = $localize`Assembling`;
  readonly document = input.required<string>();
  readonly name = input.required<string>();
  readonly mayWrite = input.required<boolean>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** Asks to stop for now. */
  readonly left = output();
  /** It is on top. */
  readonly done = output<Outcome>();

  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly comparing = inject(Comparing);
  protected readonly assembling = inject(Assembling);
  protected readonly collections = inject(Store).selectSignal(shelf.selectFillable);
  protected readonly all = computed(() => this.comparing.look()?.comparison.changes.length ?? 0);
  protected readonly change = computed(() => {
    const at = this.comparing.at();
    return this.comparing.look()?.comparison.changes.find(({ id }) => id === at) ?? null;
  });
  protected readonly quote = computed(() =>
    (this.change()?.later || this.change()?.earlier || '').slice(0, 80),
  );
  protected readonly taken = computed(() => this.assembling.decisions().get(this.change()?.id ?? -1));
  protected readonly groupings = computed(() => {
    const { people, kinds, sections, renames } = this.assembling.groups();
    const person = (id: string): string => this.people().get(id)?.name ?? $localize`Somebody`;
    const said = (groups: typeof people, says: (name: string) => string) =>
      groups.map((group) => ({ ...group, says: says(group.name) }));
    return [
      { name: $localize`All by one person`, groups: said(people, person) },
      { name: $localize`All of one kind`, groups: said(kinds, (kind) => FAMILIES[kind] ?? kind) },
      { name: $localize`All of one rename`, groups: said(renames, renameOf) },
      { name: $localize`All in one section`, groups: said(sections, (title) => title) },
    ].filter(({ groups }) => groups.length > 0);
  });
  protected readonly doing = signal<'nothing' | 'putting' | 'setting'>('nothing');
  private readonly calling = new Calling();
  protected readonly busy = this.calling.busy;
  protected readonly wrong = this.calling.wrong;
  protected readonly comment = new FormControl('', { nonNullable: true });
  protected readonly major = new FormControl(false, { nonNullable: true });
  protected readonly title = new FormControl('', { nonNullable: true });
  protected readonly collection = signal('');
  protected readonly offersBoth = offersBoth;
  protected readonly sides = SIDES;
  protected readonly formats = computed(() => formatsOf(this.comparing.kind()));

  constructor() {
    inject(Acting).offer({
      takeEarlier: () => this.take('earlier'),
      takeBoth: () => this.take('both'),
      takeLater: () => this.take('later'),
    });
  }

  /** Decides about the change in hand, and goes on to the next. */
  protected take(take: Decision): void {
    const change = this.change();
    if (!change || (take === 'both' && !offersBoth(change))) return;
    this.assembling.decide([change.id], take);
    this.comparing.step(1);
  }

  protected stop(event: Event): void {
    event.stopPropagation();
    this.doing.set('nothing');
  }

  protected begin(): void {
    const look = this.comparing.look();
    const number = (version: number | null, seq: number): string =>
      version === null ? $localize`edit ${seq}` : $localize`version ${version}`;
    if (look)
      this.title.setValue(
        $localize`${this.name()}, from ${number(look.earlier.version, look.earlier.seq)} and ${number(look.later.version, look.later.seq)}`.slice(
          0,
          200,
        ),
      );
    this.doing.set('setting');
  }

  protected async put(): Promise<void> {
    const input = this.assembling.input();
    const [comment, major] = [this.comment.value.trim(), this.major.value];
    if (!input) return;
    const call = this.api.assemble(this.document(), { ...input, ...(comment ? { comment } : {}), major });
    const outcome = await this.calling.make(call);
    if (!outcome) return;
    this.assembling.done();
    this.done.emit(outcome);
  }

  protected async setAside(): Promise<void> {
    const [input, title] = [this.assembling.input(), this.title.value.trim()];
    if (!input) return;
    if (!title) return this.wrong.set($localize`A document needs a title.`);
    const call = this.api.setAside(this.document(), {
      ...input,
      title,
      collection: this.collection() || null,
    });
    const made = await this.calling.make(call);
    if (!made) return;
    this.assembling.done();
    void this.router.navigate(['/documents', made.id]);
  }

  protected async save(format: AssembledFileInput['format']): Promise<void> {
    const input = this.assembling.input();
    const file =
      input && (await this.calling.make(this.api.assembledFile(this.document(), { ...input, format })));
    if (file) saveFile($localize`${this.name()} assembled.${FORMATS[format].endings[0]}`, file);
  }
}
