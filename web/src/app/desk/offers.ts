import { Injectable, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { Version } from '@oxbow/contract';
import { Acting } from '../acting/acting';
import type { Found } from '../acting/acting';
import { Assembling } from '../assemble/assembling';
import { kindOf } from '@oxbow/core/kinds';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { AboutDocument } from '../document/about';
import { DeskHistory } from '../document/history';
import { LiveDocument } from '../document/live-document';
import { DeskActs } from '../document/acts';
import { Words } from '../document/words';
import { printPage } from '../document/printing';
import { DeskLedger } from '../ledger/ledger-state';
import { dayAndTime } from '../look/time';
import { Comparing } from '../reading/comparing';
import { DeskAddress } from './address';
import { Frame } from './frame';
import { Going } from './going';

/** What can be done on a desk, by buttons, keys and the list of commands alike. */
@Injectable()
export class DeskOffers {
  private readonly about = inject(AboutDocument);
  private readonly kinds = inject(KINDS_ON_SCREEN);
  private readonly acting = inject(Acting);
  private readonly address = inject(DeskAddress);
  private readonly assembling = inject(Assembling);
  private readonly comparing = inject(Comparing);
  private readonly frame = inject(Frame);
  private readonly going = inject(Going);
  private readonly ledger = inject(DeskLedger);
  private readonly live = inject(LiveDocument);
  private readonly log = inject(DeskHistory);
  private readonly router = inject(Router);
  private readonly words = inject(Words);
  private readonly acts = inject(DeskActs);

  /** Whether the tideline is to have the focus as soon as the history has come. */
  readonly wantsLine = signal(false);
  /** Whether one is asked for a word about the version that is to be kept. */
  readonly keeping = signal(false);

  constructor() {
    this.onThePage();
    this.inThePast();
    this.acting.offerFinding(() => this.places());
  }

  private onThePage(): void {
    const { about, acting, address, comparing } = this;
    const open = (): boolean => !comparing.look() && !address.place();
    acting.offer(
      { share: () => void this.router.navigate(['/documents', address.document(), 'sharing']) },
      () => about.document()?.role === 'owner',
    );
    acting.offer(
      { keeping: () => void this.router.navigate(['/documents', address.document(), 'keeping']) },
      () => !this.log.hidden(),
    );
    acting.offer(
      { erase: () => this.eraseSelection() },
      () => open() && about.document()?.role === 'owner' && this.live.page?.state.selection.empty === false,
    );
    acting.offer({ print: () => void this.print() }, open);
    acting.offer({ leaveRoom: () => this.going.enter(null) }, () => address.place() !== null);
    acting.offer(
      { keepVersion: () => this.keeping.set(true) },
      () => !this.log.hidden() && about.mayWrite() && !comparing.look() && !about.checkedOut(),
    );
  }

  private inThePast(): void {
    const { about, acting, address, assembling, comparing, frame, going } = this;
    const past = (): boolean => !this.log.hidden();
    const reads = (): boolean => comparing.look() !== null;
    acting.offer({ backToNow: () => going.go(null) }, () => reads() && !address.place());
    acting.offer(
      {
        toTideline: () => this.toTideline(),
        ledger: () => this.ledger.toggle(address.document()),
        compare: () => void going.chooseEnds(),
        find: () => going.enter({ room: 'find' }),
        removed: () => going.enter({ room: 'removed' }),
        returned: () => going.enter({ room: 'returned' }),
        contributors: () => going.enter({ room: 'contributors' }),
        play: () => going.enter({ room: 'play' }),
        log: () => frame.toggleLog(),
        fold: () => frame.fold(),
      },
      past,
    );
    acting.offer(
      { nameMoment: () => going.nameMoment() },
      () => past() && about.mayWrite() && !comparing.look()?.file,
    );
    acting.offer(
      {
        nextChange: () => going.stepChange(1),
        previousChange: () => going.stepChange(-1),
        marks: () => comparing.marked.update((marked) => !marked),
        goToChange: () => going.goToChange(),
        life: () => going.lifeOfChange(),
      },
      reads,
    );
    acting.offer({ discard: () => void this.discard() }, () => this.discardable() !== null);
    acting.offer(
      { assemble: () => address.assemble(!assembling.on()) },
      () => reads() && !comparing.look()?.file,
    );
    acting.offer(
      { carry: () => going.enter({ room: 'carry' }) },
      () => about.mayWrite() && reads() && address.pick()?.later !== this.log.head(),
    );
  }

  private async print(): Promise<void> {
    const doc = this.live.page?.state.doc;
    const kind = doc && this.kinds[kindOf(doc).name];
    await printPage(doc ? { id: this.address.document(), doc, kind } : null);
  }

  /** The picked version, where one may discard it: an owner, any but the beginning. */
  private discardable(): Version | null {
    const look = this.comparing.look();
    if (this.about.document()?.role !== 'owner' || !look || look.file || this.address.place()) return null;
    const version = this.log.versionAt(look.later.seq);
    return version && version.cause !== 'beginning' ? version : null;
  }

  private async discard(): Promise<void> {
    const version = this.discardable();
    if (version && (await this.acts.discard(this.address.document(), version))) this.going.go(null);
  }

  /** Leads to where the selection is erased, if all of the page is accepted: only what the history has can be erased from it. */
  private eraseSelection(): void {
    const [view, moment] = [this.live.page, this.live.settled()];
    if (!view) return;
    if (moment === null) {
      this.words.say($localize`What you wrote is still on its way. Try again in a moment.`);
      return;
    }
    const { from, to } = view.state.selection;
    void this.router.navigate(['/documents', this.address.document(), 'keeping'], {
      queryParams: { passage: `${moment}.${from}.${to}` },
    });
  }

  private toTideline(): void {
    this.frame.showLine();
    this.wantsLine.set(true);
  }

  /** Moments of this document that have a number or a name. */
  private places(): Found[] {
    const open = (seq: number) => () => this.going.goTo(seq);
    return [
      ...this.log.landmarks().map(({ name, note, seq }) => ({
        label: name,
        about: note ? $localize`Landmark: ${note}` : $localize`Landmark`,
        run: open(seq),
      })),
      ...this.log.versions().map(({ number, gist, at, seq }) => ({
        label: $localize`Version ${number}`,
        about: `${dayAndTime(at)}: ${gist}`,
        run: open(seq),
      })),
    ];
  }
}
