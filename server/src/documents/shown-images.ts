import { picturesIn } from '@oxbow/core/content';
import type { View } from '../access/view.js';
import type { Histories } from '../histories/histories.js';
import { DocumentCache } from '../store/epochs.js';
import type { Epochs } from '../store/epochs.js';
import type { Images } from '../store/images.js';

/** How long somebody may look at an image that they stored and have not put anywhere yet, in milliseconds. */
const AT_HAND = 3600_000;
const MOST = 10_000;

/** A document's images for somebody: those that stand in what they may see of it, and those that they are about to put in. */
export class ShownImages {
  private readonly stored: DocumentCache<true>;

  constructor(
    epochs: Epochs,
    private readonly images: Images,
    private readonly histories: Histories,
  ) {
    this.stored = new DocumentCache(epochs, { max: MOST, ttl: AT_HAND });
  }

  /** Takes note of an image that somebody stored just now. */
  note({ key, person }: View, hash: string): void {
    this.stored.entry(key, `${person} ${hash}`).set(true);
  }

  /** An image by its hash; null where there is none, or none that they may see. */
  async read(view: View, hash: string): Promise<{ type: string; data: Buffer } | null> {
    return (await this.isShown(view, hash)) ? this.images.read(view.key, hash) : null;
  }

  private async isShown(view: View, hash: string): Promise<boolean> {
    const { key, person, history, first } = view;
    if (history === 'all' && first === 0) return true;
    if (this.stored.get(key, `${person} ${hash}`)) return true;
    const { doc } = await this.histories.head(view);
    if (picturesIn(doc).has(hash)) return true;
    if (history === 'none') return false;
    return (
      picturesIn(await this.histories.moment(view, 0)).has(hash) ||
      (await this.histories.hasNamed(view, hash))
    );
  }
}
