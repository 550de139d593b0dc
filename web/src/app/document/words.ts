import { Injectable, signal } from '@angular/core';

/** A quiet word to whoever has the document open, with something that can be done about it. */
export interface Word {
  readonly text: string;
  readonly act?: { readonly label: string; readonly run: () => void };
}

/** The last few words said on this desk; they stay until dismissed or acted on. */
@Injectable()
export class Words {
  private readonly said = signal<readonly Word[]>([]);
  readonly list = this.said.asReadonly();

  say(text: string, act?: Word['act']): void {
    this.said.update((words) => [...words.slice(-2), { text, act }]);
  }

  hush(word: Word): void {
    this.said.update((words) => words.filter((one) => one !== word));
  }
}
