import type { Transaction } from 'sequelize';
import type { Ownership } from '../access/ownership.js';
import type { Settings } from '../membership/settings.js';

/** Which owners of a document have to agree before something in it is erased, where the organisation asks for a second one. */
export class SecondOwner {
  constructor(
    private readonly settings: Settings,
    private readonly ownership: Ownership,
  ) {}

  /** The owners of whom one has to agree to what a person wants; nobody where that is not asked for, or nobody else owned it lately. */
  async needed(document: number, person: number, transaction: Transaction): Promise<number[]> {
    const { secondOwner } = await this.settings.get(transaction);
    if (!secondOwner) return [];
    return (await this.ownership.lately(document, transaction)).filter((owner) => owner !== person);
  }
}
