import { readHtml } from '@oxbow/core/formats';
import { hashed, ownView, wholeShare } from '@oxbow/server';
import type { App } from '@oxbow/server';
import { Random } from '@oxbow/core/testing';
import type { Hand } from './hand.js';
import { writeLetters } from './letters.js';
import { DAY, MINUTE, Making } from './making.js';
import type { Stored } from './making.js';
import { PEOPLE } from './people.js';
import type { PersonId } from './people.js';
import { Supply } from './prose.js';
import { makeRota } from './rota.js';
import { makeSlides } from './slides.js';
import { APPLICATION } from './texts/application.js';
import { DOG, GUIDE, KETTLE } from './texts/guide.js';
import { MINUTES } from './texts/minutes.js';
import { NOTES } from './texts/notes.js';

/** Days ago on which somebody sat down, in clumps with quiet weeks between them. */
function daysOfWork(random: Random, count: number, first: number): number[] {
  const days: number[] = [];
  let day = first - 1;
  while (days.length < count) {
    days.push(day);
    const left = count - days.length;
    const stride = day / Math.max(1, left);
    day -= random.chance(0.08) ? stride * random.between(4, 7) : random.chance(0.45) ? 0 : stride * 0.9;
    if (day < 0.3) day = 0.3 + random.next() * 2;
  }
  return days.sort((a, b) => b - a);
}

/** Makes the demo by editing: a year of the Withy Mill Trust, up to `now`. The same every time but for the dates. */
class Demo extends Making {
  /** Makes people, collections and documents. What is erased is erased now, the rest at its time. `scale` below 1 makes shorter histories, for tests. */
  async make(scale = 1): Promise<void> {
    const passwordHash = hashed('tidemill');
    for (const [colour, person] of PEOPLE.entries())
      this.people.set(
        person.id,
        await this.app.people.create({ ...person, colour, passwordHash, admin: this.people.size === 0 }),
      );
    const names = ['Visitors', 'Funding', 'Volunteers and boats', 'Craft and nature'];
    const ids = ['visitors', 'funding', 'volunteers', 'nature'];
    const { collections } = this.app.database.models;
    const keepers: PersonId[] = ['ines', 'hanneke', 'mairead', 'jun'];
    await this.app.database.writes.add(async (transaction) => {
      await collections.bulkCreate(
        ids.map((id, position) => ({ id, name: names[position] ?? id, position })),
        { transaction },
      );
      await this.app.database.models.shares.bulkCreate(
        ids.flatMap((id, i) => [
          wholeShare(id, this.person(keepers[i] ?? 'ines').key, 'owner'),
          wholeShare(id, 0, 'editor'),
        ]),
        { transaction },
      );
    });
    await this.app.groups.create({ name: 'Boat crew', people: ['mairead', 'jun', 'petru'] });
    await this.guide(scale);
    await this.application(scale);
    await this.briefing();
    await makeRota(this, scale);
    await makeSlides(this);
    await this.minutes(scale);
    await this.fieldNotes(scale);
    await this.lastLooks();
  }

  /** Everybody looked at everything three days ago; what came since is new to those who did not write it. */
  private async lastLooks(): Promise<void> {
    const at = this.now - 3 * DAY;
    const { documents } = this.app.database.models;
    for (const document of await documents.findAll({ raw: true })) {
      const [row] = await this.app.database.rows<{ seq: number }>(
        'SELECT COUNT(*) AS seq FROM edits WHERE document = :document AND "acceptedAt" <= :at',
        { document: document.key, at },
      );
      const seq = Number(row?.seq ?? 0);
      for (const person of this.people.values())
        await this.app.looks.keep(ownView(document, person.key), { seq }, at);
    }
  }

  /** Many ordinary days by several people, some sitting down together. */
  private async ordinaryDays(
    document: Stored,
    who: readonly PersonId[],
    count: number,
    first: number,
    acts: number,
    seed: number,
    supply: Supply,
    interlude?: (daysAgo: number) => Promise<void>,
  ): Promise<void> {
    const random = new Random(seed);
    let last = 0;
    for (const daysAgo of daysOfWork(random, count, first)) {
      await interlude?.(daysAgo);
      const earliest = Math.max(last + 12 * MINUTE, this.at(daysAgo, 8 + random.next() * 9));
      const pair = random.chance(0.3) ? [random.pick(who), random.pick(who)] : [random.pick(who)];
      let clock = earliest;
      for (let act = 0; act < acts; act++) {
        clock = await this.sit(
          document,
          pair[act % pair.length] ?? 'ines',
          clock + random.between(2, 40) * 1000,
          (hand) => hand.ordinary(supply),
          random,
        );
      }
      last = clock;
      await this.cut(document, clock + 11 * MINUTE);
    }
  }

  private async guide(scale: number): Promise<void> {
    const first = 371;
    const document = await this.document('A guide to the mill', 'visitors', 'ines', first);
    const days = Math.round(126 * scale);
    const supply = new Supply(GUIDE, 5 * days);
    const begun = await this.sit(
      document,
      'ines',
      this.at(first, 9.2),
      (hand) => {
        hand.heading('Walking the Withy tide mill', 1);
        for (const { title } of GUIDE.sections.slice(1)) hand.heading(title, 2);
        hand.begin(supply, 6);
      },
      3,
    );
    await this.cut(document, begun + 20 * MINUTE);
    await this.app.documents.change(
      document,
      this.person('ines'),
      { title: 'Walking the Withy tide mill' },
      begun + 25 * MINUTE,
    );
    const stories = this.guideStories(document);
    await this.ordinaryDays(
      document,
      ['ines', 'ines', 'tobias', 'mairead', 'jun'],
      days,
      first,
      5,
      11,
      supply,
      async (daysAgo) => {
        while (stories[0] && daysAgo <= stories[0].daysAgo) await stories.shift()?.tell(daysAgo);
      },
    );
    await this.name(
      document,
      'ines',
      290,
      'First opening',
      'What the visitors of the first season were given.',
    );
    await this.name(document, 'hanneke', 150, 'Summer leaflet', 'Sent to the printer; 2,000 copies.');
    await this.name(
      document,
      'ines',
      40,
      'As agreed by the trust',
      'Read aloud and agreed at the autumn meeting.',
    );
    await this.sit(document, 'tobias', this.now - 26 * MINUTE, (hand) => hand.turn(GUIDE.turns), 5);
    await this.sit(document, 'jun', this.now - 24 * MINUTE, (hand) => hand.turn(GUIDE.turns), 21);
    await this.cut(document, this.now - 12 * MINUTE);
    await this.sit(document, 'mairead', this.now - 6 * MINUTE, (hand) => hand.write(KETTLE), 6);
  }

  /** What happened to the guide beside its ordinary days: a passage that came and was lost, and an afternoon without a guide. */
  private guideStories(document: Stored): { daysAgo: number; tell: (daysAgo: number) => Promise<void> }[] {
    const told = async (who: PersonId, daysAgo: number, work: (hand: Hand) => void): Promise<void> => {
      const end = await this.sit(document, who, this.at(daysAgo + 0.5, 11.3), work, Math.round(daysAgo));
      await this.cut(document, end + 11 * MINUTE);
    };
    return [
      {
        daysAgo: 210,
        tell: (daysAgo) => told('mairead', daysAgo, (hand) => hand.write(DOG)),
      },
      {
        daysAgo: 118,
        tell: (daysAgo) => told('tobias', daysAgo, (hand) => void hand.drop([DOG.sentence])),
      },
      { daysAgo: 24, tell: (daysAgo) => this.disaster(document, daysAgo + 0.6) },
    ];
  }

  /** Two thirds of the guide vanish at one stroke, and somebody notices an hour later. */
  private async disaster(document: Stored, daysAgo: number): Promise<void> {
    const at = this.at(daysAgo, 16.4);
    const after = await this.sit(
      document,
      'petru',
      at,
      (hand) => {
        hand.wipeFrom(4);
        hand.paragraph('I think I have pressed something.', true);
      },
      77,
    );
    await this.cut(document, after + 11 * MINUTE);
    await this.rescue(document, 'ines', after + 58 * MINUTE, 'Everything after the wheel was gone.');
  }

  private async application(scale: number): Promise<void> {
    const document = await this.document('Rebuilding the sluice', 'funding', 'hanneke', 214);
    const days = Math.round(26 * scale);
    const supply = new Supply(APPLICATION, 4 * days);
    await this.sit(
      document,
      'hanneke',
      this.at(214, 10),
      (hand) => {
        hand.heading('Rebuilding the sluice: an application', 1);
        hand.heading('What it will cost', 2);
        hand.table(['Item', 'Euro', 'Given']);
        hand.row(['Oak for the gate', '8,400', 'two thirds']);
        hand.row(['Masonry of the sill', '14,200', 'none yet']);
        hand.row(['Volunteers’ days', '6,000', 'in kind']);
        for (const { title } of APPLICATION.sections.slice(1)) hand.heading(title, 2);
        hand.begin(supply, 7);
      },
      9,
    );
    await this.ordinaryDays(document, ['hanneke', 'hanneke', 'ines', 'tobias'], days, 213, 4, 23, supply);
    const end = await this.sit(
      document,
      'hanneke',
      this.now - 3 * DAY,
      (hand) => hand.turn(APPLICATION.turns),
      29,
    );
    await this.app.documents.keep(document, this.person('hanneke'), {
      comment: 'As sent to the fund',
      major: true,
      at: end + MINUTE,
    });
    await this.name(document, 'hanneke', 0, 'As sent to the fund', 'Decision expected in six weeks.');
  }

  private async briefing(): Promise<void> {
    const document = await this.document('Boat-day briefing', 'volunteers', 'mairead', 40);
    const end = await this.sit(
      document,
      'mairead',
      this.at(40, 14),
      (hand) => {
        hand.heading('Boat-day briefing', 1);
        hand.paragraph(
          'Six places a boat, life jackets on before the landing stage, and nobody stands up.',
          true,
        );
        for (const thing of [
          'oars, two pairs and one spare',
          'bailer',
          'tide table of the day',
          'first-aid box',
          'flask of something hot',
        ])
          hand.item(thing, 'check_list');
        hand.tick();
        hand.tick();
        hand.paragraph('We leave an hour before high water and are back before the ebb runs hard.', true);
      },
      31,
    );
    await this.cut(document, end + 20 * MINUTE);
    const reviewed = readHtml(
      '<h1>Boat-day briefing</h1><p>Six places a boat, life jackets on <strong>before</strong> the landing stage, and nobody stands up while under way.</p><ul><li><input type="checkbox" checked> oars, two pairs and one spare</li><li><input type="checkbox"> bailer and a sponge</li><li><input type="checkbox"> tide table of the day</li><li><input type="checkbox"> first-aid box</li><li><input type="checkbox"> throw line</li></ul><p>We leave an hour before high water and are back before the ebb runs hard. In fog nobody leaves.</p>',
      { address: (hash) => hash, stored: () => null },
    );
    await this.app.becoming.become(
      document,
      this.person('mairead'),
      { kind: 'filing', file: 'boat-day-briefing harbour master.html', format: 'html' },
      async () => ({ target: reviewed }),
      { comment: 'Back from the harbour master', at: this.at(12, 11) },
    );
    await writeLetters(this.app, this.now, reviewed);
  }

  private async minutes(scale: number): Promise<void> {
    const document = await this.document('Minutes of the trust', null, 'hanneke', 330);
    for (let month = 11; month >= 0; month--) {
      if (month % Math.max(1, Math.round(1 / scale)) !== 0) continue;
      const random = new Random(month + 51);
      const { said = '', agreed = '' } = MINUTES[11 - month] ?? {};
      const at = this.at(month * 29 + 2, 19.5);
      const end = await this.sit(
        document,
        month % 3 === 0 ? 'ines' : 'hanneke',
        at,
        (hand) => {
          hand.heading(
            new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(at),
            2,
          );
          hand.paragraph(
            `Present: ${PEOPLE.filter(() => random.chance(0.7))
              .map((person) => person.name)
              .join(', ')}.`,
            true,
          );
          hand.paragraph(said, true);
          hand.paragraph(`Agreed: ${agreed}`, true);
        },
        month,
      );
      await this.cut(document, end + 11 * MINUTE);
    }
  }

  private async fieldNotes(scale: number): Promise<void> {
    const document = await this.document('Saltmarsh field notes', 'nature', 'jun', 300);
    const days = Math.round(30 * scale);
    const supply = new Supply(NOTES, 4 * days);
    await this.sit(
      document,
      'jun',
      this.at(300, 7),
      (hand) => {
        hand.heading('Saltmarsh field notes', 1);
        hand.begin(supply, 2);
        for (const bird of ['redshank, two pairs', 'oystercatcher', 'little egret, one']) hand.item(bird);
      },
      61,
    );
    await this.ordinaryDays(document, ['jun', 'jun', 'jun', 'petru'], days, 299, 4, 67, supply);
  }
}

/** Makes the demo in an empty data folder; does nothing where people exist already. Answers whether it made it. */
export async function makeDemo(app: App, now = Date.now(), scale = 1): Promise<boolean> {
  if (app.people.all.length > 0) return false;
  await app.facts.keep('demo', new Date(now).toISOString());
  await app.facts.keep('organisation', 'The Withy Mill Trust');
  await new Demo(app, now).make(scale);
  return true;
}

export { PEOPLE };
