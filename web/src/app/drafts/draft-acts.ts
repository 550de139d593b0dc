import { Injectable, inject } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { AboutDocument } from '../document/about';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import type { Kept } from '../live/kept';
import { rebased } from '../live/rebasing';
import { Comparing } from '../reading/comparing';

/** What is done with a stranded draft on the desk of its document. */
@Injectable()
export class DraftActs {
  private readonly api = inject(Api);
  private readonly about = inject(AboutDocument);
  private readonly comparing = inject(Comparing);
  private readonly live = inject(LiveDocument);
  private readonly words = inject(Words);

  /** Shows a draft as it would stand on top of the document. */
  async compare(draft: Kept): Promise<void> {
    await this.comparing.openDraft(async () => {
      const { seq, drafted } = await rebased(this.api, draft, this.live.confirmed ?? 0);
      const moment = await firstValueFrom(this.api.moment(draft.message.document, seq));
      return { moment, content: drafted.toJSON() };
    }, draft.at);
  }

  /** Puts a draft on top, as one's own writing. */
  async put(draft: Kept): Promise<void> {
    try {
      const { edits } = await rebased(this.api, draft, this.live.confirmed ?? 0);
      if (this.comparing.look()?.file) this.comparing.open(null);
      this.live.putOnTop(edits, draft);
      this.words.say($localize`Your draft is on top. Undo takes it off again.`);
    } catch (error) {
      this.words.say(saidOf(error));
    }
    this.about.again();
  }
}
