import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { Acting } from '../acting/acting';
import { ACTS, keysTold } from '../acting/acts';
import type { DocumentSummary } from '@oxbow/contract';
import type { Format } from '@oxbow/core/formats';
import { formatsOf } from '../look/formats';
import { Notices } from '../notices/notices';
import type { Place } from '../past/rooms';
import { WatchMenu } from './watch-menu';

/** The bar over the desk: where one is, the title, and the ways into the past. */
@Component({
  selector: 'ox-desk-bar',
  imports: [MatButtonModule, MatIconModule, MatMenuModule, Notices, RouterLink, WatchMenu],
  templateUrl: './desk-bar.html',
  styleUrl: './desk-bar.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskBar {
  readonly document = input.required<string>();
  readonly title = input.required<string | null>();
  readonly kind = input<DocumentSummary['kind']>('text');
  readonly collection = input.required<string>();
  readonly mayWrite = input.required<boolean>();
  /** Whether one says who has it. */
  readonly mayShare = input(false);
  /** Whether one may look at its history. */
  readonly looksBack = input(true);
  /** Whether the present page is in view. */
  readonly present = input.required<boolean>();
  readonly room = input.required<string | null>();
  readonly ledger = input.required<boolean>();
  /** The last edit. */
  readonly head = input(0);
  /** Where the caret stands. */
  readonly position = input.required<number | null>();
  /** The document that this one was copied from, and the moment of it. */
  readonly origin = input<{ document: string; title: string; moment: number } | null>(null);
  readonly renamed = output<string>();
  readonly moved = output<Place>();
  readonly compared = output();
  /** Asks for a comparison with the document this one was copied from, as it was then. */
  readonly originCompared = output();
  readonly ledgerAsked = output();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly naming = signal(false);
  protected readonly acting = inject(Acting);
  protected readonly acts = ACTS;
  protected readonly changeTitle = $localize`Change the title`;
  protected readonly formats = computed(() => formatsOf(this.kind()));
  protected readonly ways = (['find', 'removed', 'contributors', 'play'] as const).map((room) => {
    const { label, about, keys } = ACTS[room];
    return { room, name: label, about: keys ? `${about} (${keysTold(keys)})` : about };
  });

  /** Where the document as it is now is found as a file. */
  protected address(format: Format): string {
    return `/api/documents/${this.document()}/versions/@${this.head()}?format=${format}`;
  }

  protected startNaming(): void {
    if (!this.mayWrite()) return;
    this.naming.set(true);
    setTimeout(() => this.element.nativeElement.querySelector<HTMLInputElement>('.retitle')?.select());
  }

  protected rename(name: string): void {
    if (!this.naming()) return;
    this.naming.set(false);
    const title = name.trim();
    if (title && title !== this.title()) this.renamed.emit(title);
  }
}
