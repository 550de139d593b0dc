import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import type { Landmark, Person, Version } from '@oxbow/contract';
import type { Format } from '@oxbow/core/formats';
import { kindOfContent } from '@oxbow/core/kinds';
import { Clipboard } from '@angular/cdk/clipboard';
import { RouterLink } from '@angular/router';
import { Acting } from '../acting/acting';
import { ACTS } from '../acting/acts';
import { What } from '../acting/what';
import { colourOf } from '../look/colours';
import { Send } from '../arrivals/send';
import { CameAlong } from '../filing/came-along';
import { FileReport } from '../filing/file-report';
import { formatsOf } from '../look/formats';
import { Now } from '../look/now';
import type { Look } from '../reading/look';
import type { Preview } from '../document/acts';
import { Commenting } from './commenting';
import { Copying } from './copying';
import { Naming } from './naming';
import { TakingBack } from './taking-back';

/** Stands on the tideline at its handle: which moment this is, who and what changed, and what can be done. */
@Component({
  selector: 'ox-moment-card',
  imports: [
    What,
    CameAlong,
    Commenting,
    Copying,
    FileReport,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    Naming,
    RouterLink,
    TakingBack,
  ],
  templateUrl: './moment-card.html',
  styleUrl: './moment-card.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', '[attr.aria-label]': 'ownName', '[class.brief]': 'brief()' },
})
export class MomentCard {
  protected readonly ownName = $localize`The picked moment`;
  readonly look = input.required<Look>();
  /** Whether to say only the least, where the page needs the room. */
  readonly brief = input(false);
  readonly version = input.required<Version | null>();
  readonly landmark = input.required<Landmark | null>();
  /** Whether this document has a landmark at all, to link to the latest. */
  readonly anyLandmark = input(false);
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly isNow = input.required<boolean>();
  readonly mayRestore = input.required<boolean>();
  /** Whether one owns the document. */
  readonly owns = input(false);
  readonly preview = input.required<Preview | null>();
  readonly busy = input.required<boolean>();
  readonly carryAsked = output();
  /** Asks to file the file in view. */
  readonly filingAsked = output();
  readonly previewAsked = output();
  /** Asks for the restore, with a note. */
  readonly restored = output<string>();
  readonly closed = output();
  readonly said = output<string>();

  protected readonly acting = inject(Acting);
  protected readonly acts = ACTS;
  private readonly clipboard = inject(Clipboard);
  private readonly sending = inject(Send);
  /** What is being done with the moment; another moment ends it, but for naming, so that no name is lost on the way. */
  readonly doing = linkedSignal<
    Look,
    'nothing' | 'restoring' | 'naming' | 'commenting' | 'takingBack' | 'copying'
  >({
    source: this.look,
    computation: (_look, before) => (before?.value === 'naming' ? 'naming' : 'nothing'),
  });
  protected readonly name = computed(() => {
    const [version, look] = [this.version(), this.look()];
    if (look.file) return look.file;
    return version ? $localize`Version ${version.number}` : $localize`This moment`;
  });
  protected readonly earlierName = computed(() => {
    const { version, seq } = this.look().earlier;
    return version === null ? $localize`edit ${seq}` : $localize`version ${version}`;
  });
  protected readonly target = computed(() => {
    const version = this.version();
    return version ? $localize`version ${version.number}` : $localize`this moment`;
  });
  protected readonly same = computed(() => {
    const { earlier, later, file } = this.look();
    return !file && earlier.document === later.document && earlier.seq === later.seq;
  });
  /** Whether what is looked at are slides, which can be shown. */
  protected readonly hasSlides = computed(() => kindOfContent(this.look().later.content) === 'deck');
  /** Who had a hand in what changed, and how many words they brought and took. */
  protected readonly writers = computed(() => {
    const { comparison, later, file } = this.look();
    const ids = new Set(
      comparison.changes.flatMap((change) => change.credits.map((credit) => credit.person)),
    );
    if (ids.size === 0 && !file) ids.add(later.by);
    const shares = new Map(comparison.shares.map((share) => [share.person, share]));
    return [...ids].flatMap((id) => {
      const person = this.people().get(id);
      return person ? [{ person, share: ids.size > 1 ? (shares.get(id) ?? null) : null }] : [];
    });
  });
  /** Whether what happened between the two moments can be taken back: not across documents, nor from a file. */
  protected readonly stretch = computed(() => {
    const { earlier, later, file } = this.look();
    return !file && earlier.document === later.document && earlier.seq < later.seq;
  });
  protected readonly hands = computed(() => this.writers().map(({ person }) => person));
  protected readonly colourOf = colourOf;
  protected readonly now = inject(Now);
  protected readonly formats = computed(() => formatsOf(kindOfContent(this.look().later.content)));

  protected ask(): void {
    this.doing.set('restoring');
    this.previewAsked.emit();
  }

  /** Puts a link to this moment, or to the latest landmark of the document, on the clipboard. */
  protected link(to: 'this' | 'latest'): void {
    const { document, seq } = this.look().later;
    const landmark = this.landmark();
    const end =
      to === 'latest'
        ? 'landmarks/latest'
        : landmark
          ? `landmarks/${encodeURIComponent(landmark.name)}`
          : `moments/${seq}`;
    const address = `${location.origin}/documents/${document}/${end}`;
    this.said.emit(
      this.clipboard.copy(address) ? $localize`Copied ${address}` : $localize`The link is ${address}`,
    );
  }

  protected async send(): Promise<void> {
    const { document, seq, title } = this.look().later;
    const said = await this.sending.ask({
      document,
      title,
      kind: kindOfContent(this.look().later.content),
      what: this.target(),
      later: seq,
    });
    if (said) this.said.emit(said);
  }

  protected address(format: Format): string {
    const { document, seq } = this.look().later;
    return `/api/documents/${document}/versions/@${seq}?format=${format}`;
  }
}
