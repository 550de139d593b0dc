import { bytesOfBase64, base64 } from './bytes.js';
import type { Images } from './format.js';
import type { Picture } from './picture.js';
import { pictureOf } from './picture.js';
import { LeftOutTally } from './reading.js';

const DATA = /^data:image\/[a-z+.-]+;base64,([A-Za-z0-9+/=\s]+)$/;

/** Images that a text file carries in itself, as addresses that hold their bytes (RFC 2397). */
export class EmbeddedImages implements Images {
  readonly tally = new LeftOutTally();
  private readonly found = new Map<string, Picture | null>();

  constructor(private readonly picture: (hash: string) => Picture | null = () => null) {}

  address(hash: string): string {
    const held = this.picture(hash);
    return held ? `data:${held.type};base64,${base64(held.bytes)}` : `image:${hash}`;
  }

  stored(address: string): string | null {
    const data = DATA.exec(address)?.[1];
    if (!data) {
      this.tally.add('pictures kept elsewhere, which are not loaded');
      return null;
    }
    if (!this.found.has(address)) this.found.set(address, pictureOf(bytesOfBase64(data)));
    const picture = this.found.get(address);
    if (!picture) this.tally.add('pictures that cannot be shown (only PNG, JPEG, GIF and WebP can)');
    return picture?.hash ?? null;
  }

  /** The images that were found, each once. */
  get pictures(): Picture[] {
    const held = [...this.found.values()].filter((picture) => picture !== null);
    return [...new Map(held.map((picture) => [picture.hash, picture])).values()];
  }
}

/** The text of a file without the images it carries. */
export function withoutImages(text: string): string {
  return text.replace(/data:image[A-Za-z0-9+/=;:,\s.-]*/g, '');
}
