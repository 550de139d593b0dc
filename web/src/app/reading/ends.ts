import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  signal,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { NgTemplateOutlet } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import type { DocumentSummary, Landmark, Person, Version } from '@oxbow/contract';
import { READ_ENDINGS } from '@oxbow/core/formats/about';
import { Acting } from '../acting/acting';
import { ACTS } from '../acting/acts';
import { Api, saidOf } from '../api/api';
import { colourOf } from '../look/colours';
import { ago, dayAndTime } from '../look/time';
import type { Ends } from './comparing';

/** What choosing needs to know, and where one is. */
export interface EndsData {
  readonly document: string;
  readonly head: number;
  readonly versions: readonly Version[];
  readonly landmarks: readonly Landmark[];
  readonly people: ReadonlyMap<string, Person>;
  readonly documents: readonly DocumentSummary[];
  readonly ends: Ends;
  /** The moment up to which one had seen the document when one last left it, or null. */
  readonly seen: number | null;
}

/** What was chosen: two ends, or a file to compare with. */
export type Chosen = { readonly ends: Ends } | { readonly file: File };

/** A quick target for the earlier end. */
interface Target {
  readonly name: string;
  readonly seq: number;
}

/** Chooses what to compare: two versions of this document, one of another, or a file. */
@Component({
  selector: 'ox-ends',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatProgressBarModule,
    MatSelectModule,
    NgTemplateOutlet,
  ],
  templateUrl: './ends.html',
  styleUrl: './ends.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EndsDialog {
  protected readonly data = inject<EndsData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<EndsDialog, Chosen>>(MatDialogRef);
  private readonly api = inject(Api);
  private readonly acting = inject(Acting);
  protected readonly acts = ACTS;
  protected readonly later = signal(this.data.ends.later);
  protected readonly other = signal<string | null>(this.data.ends.other);
  /** The versions of the other document. */
  protected readonly listed = rxResource({
    params: () => this.other() ?? undefined,
    stream: ({ params }) => this.api.allVersions(params),
  });
  protected readonly trouble = computed(() => {
    const error = this.listed.error();
    return error ? saidOf(error) : '';
  });
  /** Documents to choose from, this one first. */
  protected readonly documents = computed(() =>
    [...this.data.documents].sort(
      (a, b) => Number(b.id === this.data.document) - Number(a.id === this.data.document),
    ),
  );
  protected readonly earlierVersions = computed<readonly Version[]>(() => {
    if (!this.other()) return this.data.versions;
    return this.listed.hasValue() ? this.listed.value() : [];
  });
  /** The earlier end that was chosen; none since another document was, until one of its versions is. */
  protected readonly chosen = signal<number | null>(this.data.ends.earlier);
  /** The earlier end: the newest version of a document that was just chosen; null as long as that is not known. */
  protected readonly earlier = computed(() => this.chosen() ?? this.earlierVersions()[0]?.seq ?? null);
  protected readonly same = computed(() => !this.other() && this.earlier() === this.later());
  protected readonly targets = computed<Target[]>(() => {
    if (this.other()) return [];
    const { versions, landmarks, seen } = this.data;
    const before = versions.find(({ seq }) => seq < this.later());
    const landmark = landmarks.findLast(({ seq }) => seq < this.later());
    return [
      ...(before ? [{ name: $localize`The one before (version ${before.number})`, seq: before.seq }] : []),
      ...(landmark ? [{ name: $localize`The last landmark (${landmark.name})`, seq: landmark.seq }] : []),
      ...(seen !== null && seen < this.later() ? [{ name: $localize`My last look`, seq: seen }] : []),
    ];
  });
  protected readonly accepted = READ_ENDINGS.join(',');
  protected readonly colourOf = colourOf;
  protected readonly dayAndTime = dayAndTime;
  protected readonly ago = ago;

  protected readonly title = this.data.documents.find(({ id }) => id === this.data.document)?.title ?? '';

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      for (const chosen of element.querySelectorAll('.version.on'))
        chosen.scrollIntoView({ block: 'center' });
    });
  }

  protected choose(document: string): void {
    this.other.set(document === this.data.document ? null : document);
    this.chosen.set(null);
  }

  protected people(version: Version): Person[] {
    return version.authors.flatMap((id) => this.data.people.get(id) ?? []);
  }

  protected done(): void {
    const { document } = this.data;
    const [earlier, later, other] = [this.earlier(), this.later(), this.other()];
    if (earlier === null) return;
    const turned = !other && earlier > later;
    this.dialog.close({
      ends: { document, other, earlier: turned ? later : earlier, later: turned ? earlier : later },
    });
  }

  protected severalFiles(): void {
    this.dialog.close();
    this.acting.do('returned');
  }

  protected file(event: Event): void {
    const file = (event.target as HTMLInputElement).files?.[0];
    if (file) this.dialog.close({ file });
  }
}
