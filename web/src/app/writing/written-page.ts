import { Injectable, afterNextRender, effect, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { FormatError } from '@oxbow/core/formats/about';
import type { EditorState, Plugin } from 'prosemirror-state';
import { firstValueFrom } from 'rxjs';
import { DecorationSet } from 'prosemirror-view';
import type { EditorProps, EditorView } from 'prosemirror-view';
import { Api, saidOf } from '../api/api';
import { placePlugin } from '../carry/place-mark';
import { withoutErased } from '../document/erased';
import type { Standpoint } from '../document/kinds';
import { LiveDocument } from '../document/live-document';
import type { PageView } from '../document/page-view';
import { drawLedger, ledgerKey, ledgerPlugin } from '../ledger/ledger';
import { DeskLedger } from '../ledger/ledger-state';
import { session } from '../session/session.store';
import { hearCaret } from './caret';
import type { Caret } from './presence';
import { presenceKey, presencePlugin } from './presence';

/** Milliseconds between two tellings of where one stands. */
const PRESENCE_EVERY = 200;
/** Most letters of what an image is told as. */
const LONGEST_ALT = 500;

/**
 * The page of a document that text is written on, whichever its kind: it shows who else is there, who wrote what and where something of the past would
 * go, tells others where one stands, and cleans what is pasted.
 */
@Injectable()
export class WrittenPage {
  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly ledger = inject(DeskLedger);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  private readonly shown = signal<EditorView | null>(null);
  private lastPresence = 0;
  private clean: ((html: string) => string) | null = null;
  /** The editor; null before it is there. */
  readonly view = this.shown.asReadonly();

  constructor() {
    effect(() => {
      const [view, others, people] = [this.view(), this.live.others(), this.people()];
      const carets = [...others].flatMap(([client, presence]): [string, Caret][] => {
        const person = people.get(presence.person);
        const head = this.live.here(presence.head, presence.seq) ?? presence.head;
        return person ? [[client, { client, person, head, told: presence }]] : [];
      });
      view?.dispatch(view.state.tr.setMeta(presenceKey, new Map(carets)));
    });
    effect(() => {
      const [view, drawn] = [this.view(), this.ledger.drawn()];
      view?.dispatch(view.state.tr.setMeta(ledgerKey, drawn ? drawLedger(drawn) : () => DecorationSet.empty));
    });
    afterNextRender(async () => (this.clean = (await import('./pasting')).cleaned));
    effect((onCleanup) => {
      const view = this.view();
      onCleanup(() => {
        if (!view) return;
        this.live.attach(null);
        view.destroy();
      });
    });
  }

  /** The plugins that show what others are told of, and wrote. */
  plugins(): Plugin[] {
    return [presencePlugin(), ledgerPlugin(), placePlugin()];
  }

  /** What an editor does with what is copied and pasted, and with the caret. */
  props(): EditorProps {
    const taken = ({ state }: EditorView): boolean => {
      this.live.acts.tookHere(state.selection.from, state.selection.to);
      return false;
    };
    return {
      handleDOMEvents: { copy: taken, cut: taken, dragstart: taken, keydown: hearCaret },
      transformCopied: withoutErased,
      transformPasted: withoutErased,
      transformPastedHTML: (html) => this.cleaned(html),
    };
  }

  /** The editor is there: what comes in goes to it, by way of its page. */
  begin(view: EditorView, page: PageView): void {
    this.live.attach(page);
    this.shown.set(view);
    view.focus();
  }

  /** Tells others where one stands, and whoever keeps that. */
  stand({ selection }: EditorState, keep: (standpoint: Standpoint) => void): void {
    const { anchor, head } = selection;
    keep({ anchor, head });
    const now = Date.now();
    if (now - this.lastPresence < PRESENCE_EVERY) return;
    this.lastPresence = now;
    this.live.present(anchor, head);
  }

  /** Stores an image of the document; told by the name of its file to whoever cannot see it. Null where it could not be stored, which is said. */
  async store(document: string, file: File): Promise<{ readonly hash: string; readonly alt: string } | null> {
    try {
      const { hash } = await firstValueFrom(this.api.storeImage(document, file));
      return { hash, alt: file.name.replace(/\.\w+$/, '').slice(0, LONGEST_ALT) };
    } catch (error) {
      this.live.said.next(saidOf(error));
      return null;
    }
  }

  /** What was copied elsewhere, cleaned; in the first moments, before what cleans has come, as much of it as the schema takes. */
  private cleaned(html: string): string {
    try {
      return this.clean?.(html) ?? html;
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      this.live.said.next($localize`What was copied cannot be put in. ${error.message}`);
      return '';
    }
  }
}
