import { Injectable, inject } from '@angular/core';
import { documentOf } from '@oxbow/core/kinds';
import { firstValueFrom, forkJoin } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';

/** Puts a passage that left the document back to where it stood, in one step. */
@Injectable()
export class PutBack {
  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly words = inject(Words);

  /** The passage between two positions of a moment. Answers whether it is there again; says so, and how to take it back. */
  async passage(document: string, moment: number, from: number, to: number): Promise<boolean> {
    try {
      const { page, where } = await firstValueFrom(
        forkJoin({
          page: this.api.moment(document, moment),
          where: this.api.whereabouts(document, moment, from, to),
        }),
      );
      const doc = documentOf(page.content);
      const at = this.live.here(where.to, where.seq) ?? where.to;
      const undo = this.live.acts.carry({ doc, moment, what: [{ from, to }] }, { from: at, to: at });
      if (undo)
        this.words.say($localize`The passage is back where it stood.`, {
          label: $localize`Take it out again`,
          run: undo,
        });
      else
        this.words.say($localize`Nothing can stand where it was. Carry it forward from there, to the caret.`);
      return undo !== null;
    } catch (error) {
      this.words.say(saidOf(error));
      return false;
    }
  }
}
