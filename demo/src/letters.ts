import { compare } from '@oxbow/core/compare';
import { readHtml, readMarkdown, writeDocx, writeDocxRedline, writeOdt } from '@oxbow/core/formats';
import type { WriteOptions } from '@oxbow/core/formats';
import type { App } from '@oxbow/server';
import type { Node } from 'prosemirror-model';

const IMAGES = { address: (hash: string) => hash, stored: () => null };
const HOUR = 3600_000;

interface Letter {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly hoursAgo: number;
  readonly file: (options: WriteOptions) => { readonly name: string; readonly bytes: Uint8Array };
}

/** What waits in the demo's inbox: files from outside and from colleagues on the road. */
export async function writeLetters(app: App, now: number, briefing: Node): Promise<void> {
  for (const { from, to, subject, text, hoursAgo, file } of LETTERS(briefing)) {
    const at = new Date(now - hoursAgo * HOUR);
    const { name, bytes } = file({
      title: subject.replace(/^Re: /, ''),
      author: from.name,
      at: at.toISOString(),
      picture: () => null,
    });
    const type = 'application/octet-stream';
    await app.letters.send({ from, to: [to], subject, text, at, files: [{ name, type, bytes }] }, 'in');
  }
}

const LETTERS = (briefing: Node): Letter[] => [
  {
    from: { name: 'Wilmot Strake', address: 'wilmot@slipway.example' },
    to: 'mairead@withy.example',
    subject: 'Re: Boat-day briefing',
    text: 'Dear Mairead,\n\nI went through it with the pilots. Our changes are tracked, so you can see each one. The bar at the creek mouth has moved again, hence the new line about it.\n\nWilmot Strake, harbour office',
    hoursAgo: 5,
    file: (options) => {
      const later = readHtml(
        '<h1>Boat-day briefing</h1><p>Six places a boat, life jackets on <strong>before</strong> the landing stage, and nobody stands up while under way.</p><ul><li><input type="checkbox" checked> oars, two pairs and one spare</li><li><input type="checkbox"> bailer and a sponge</li><li><input type="checkbox"> tide table of the day</li><li><input type="checkbox"> first-aid box</li><li><input type="checkbox"> throw line, twenty metres</li><li><input type="checkbox"> hand-held radio on channel 12</li></ul><p>We leave an hour before high water and are back before the ebb runs hard. In fog nobody leaves, and nobody crosses the bar at the creek mouth below half tide.</p>',
        IMAGES,
      );
      const bytes = writeDocxRedline(
        compare(briefing, later),
        (_change, _side, from, to) => [{ author: 'Wilmot Strake', at: options.at, from, to }],
        options,
      );
      return { name: 'boat-day briefing WS.docx', bytes };
    },
  },
  {
    from: { name: 'Hanneke Voss', address: 'hanneke@withy.example' },
    to: 'ines@withy.example',
    subject: 'Budget note from the train',
    text: 'Written offline between two stations; no network out here. Could you file it where it belongs?',
    hoursAgo: 28,
    file: (options) => ({
      name: 'budget note.odt',
      bytes: writeOdt(
        readMarkdown(
          '# Budget note\n\nThe sluice timber came in **under** the estimate; the crane did not.\n\n| Item | Planned | Paid |\n| --- | --- | --- |\n| Oak for the gates | 4,200 | 3,950 |\n| Crane, two days | 1,800 | 2,310 |\n\n- ask the fund whether the difference may move\n- keep the receipts together\n',
          IMAGES,
        ),
        options,
      ),
    }),
  },
  {
    from: { name: 'Orla Fennimore', address: 'orla@saltings.example' },
    to: 'ines@withy.example',
    subject: 'A page for your visitor guide?',
    text: 'As promised on the sea wall: a page about the saltings in winter. Use what you like of it.',
    hoursAgo: 52,
    file: (options) => ({
      name: 'saltings in winter.docx',
      bytes: writeDocx(
        readMarkdown(
          '# The saltings in winter\n\nFrom November the marsh is brown and loud. Brent geese graze the eelgrass at low water and come over the wall at dusk.\n\n> Stay on the wall; what looks like turf is a creek with a lid on it.\n\n1. Bring a scarf.\n2. Bring another for whoever forgot.\n',
          IMAGES,
        ),
        options,
      ),
    }),
  },
];
