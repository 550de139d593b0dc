import type { NumberKind } from '@oxbow/contract';
import { everStood, insideOf, soughtAccounts, soughtCards, soughtText } from '@oxbow/core/erasing';
import type { InstanceRange } from '@oxbow/core/history';
import { Slices } from '../threads/slices.js';
import { entire } from './chronicles.js';
import type { Chronicles } from './chronicles.js';

/** What is looked for: a text, or numbers of a kind. */
export type Wanted = { readonly text: string } | { readonly numbers: NumberKind };

/** Where it ever stood in a document, with what was typed and corrected inside it, and how it read. */
export interface EverStood {
  readonly ranges: readonly InstanceRange[];
  readonly texts: readonly string[];
}

const NUMBERS = { account: soughtAccounts, card: soughtCards } as const;

/** Finds what ever stood in documents, so that it can be erased. */
export class Seeking {
  constructor(private readonly chronicles: Chronicles) {}

  /** Everything in a document, at any moment, that reads like what is wanted. */
  async ever(document: number, wanted: Wanted): Promise<EverStood> {
    const { tape, runs } = await this.chronicles.open(entire(document));
    const sought = 'text' in wanted ? soughtText(wanted.text) : NUMBERS[wanted.numbers];
    const { passages, texts } = await new Slices(false).through(everStood(tape, sought));
    return { ranges: insideOf(runs, passages).ranges(), texts: [...texts] };
  }
}
