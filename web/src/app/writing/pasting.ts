import { readHtml, writeHtml } from '@oxbow/core/formats';
import type { Images } from '@oxbow/core/formats';

/** Images are known by their hash, which only what was copied from this document's pages has. */
const IMAGES: Images = { address: (hash) => hash, stored: (_address, hash) => hash };

/** HTML from another program's clipboard as a document would say it; what was copied on a desk is that already. */
export function cleaned(html: string): string {
  return html.includes('data-pm-slice') ? html : writeHtml(readHtml(html, IMAGES), IMAGES);
}
