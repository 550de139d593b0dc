import { Random } from '@oxbow/core/testing';
import { ownView } from '@oxbow/server';
import type { Making, Stored } from './making.js';
import { DAY, MINUTE } from './making.js';
import { PEOPLE } from './people.js';
import type { PersonId } from './people.js';
import { SheetHand } from './sheet-hand.js';
import { LATER_COSTS, PLAN } from './texts/budget.js';

/** An account number made up for examples; it is in no bank. */
const ACCOUNT = 'GB82 WEST 1234 5698 7654 32';
const [ROTA, BUDGET] = ['Rota', 'Budget'];
/** Days ago on which the year begins. */
const FIRST = 364;
/** Row of the budget in which its items begin, counted from 0. */
const ITEMS = 1;

/** The rota and budget of the volunteers: two sheets over a year, with a column that vanished and was put back. */
export async function makeRota(making: Making, scale: number): Promise<void> {
  const document = await making.document(
    'Volunteer rota and budget',
    'volunteers',
    'mairead',
    FIRST,
    'sheet',
  );
  const random = new Random(43);
  const sit = async (who: PersonId, at: number, work: (hand: SheetHand) => void): Promise<number> => {
    const end = await making.sitAt(document, who, at, (seat) => {
      const hand = new SheetHand(seat, random);
      work(hand);
      return hand;
    });
    await making.app.versions.cutDue(document.key, end + 11 * MINUTE);
    return end;
  };
  await sit('mairead', making.at(FIRST, 18), begin);
  await sit('hanneke', making.at(FIRST - 3, 20), plan);
  await making.name(
    document,
    'hanneke',
    FIRST - 4,
    'Budget as agreed',
    'Agreed at the first meeting of the season.',
  );

  const weeks = Math.max(4, Math.round(48 * scale));
  const bills = [...LATER_COSTS];
  const names = PEOPLE.map(({ name }) => name.split(' ')[0] ?? '');
  for (let week = 0; week < weeks; week++) {
    const daysAgo = 350 - week * Math.floor(344 / weeks);
    const who = random.pick(['mairead', 'petru', 'mairead', 'jun'] as const);
    const sunday = new Date(making.now - daysAgo * DAY).toISOString().slice(0, 10);
    const day = making.at(daysAgo, 16 + random.next() * 4);
    const end = await sit(who, day, (hand) =>
      hand.type(ROTA, week + 1, [
        sunday,
        random.pick(names),
        random.pick(names),
        random.pick(names),
        String(random.between(6, 64)),
        String(random.between(9, 130)),
      ]),
    );
    if (week % 3 === 1)
      await sit('hanneke', end + random.between(20, 90) * MINUTE, (hand) => keepBooks(hand, bills, random));
    if (week === Math.floor(weeks * 0.6)) await disaster(making, document, day + 3 * 60 * MINUTE, sit);
    if (week === Math.floor(weeks / 2))
      await making.name(document, 'hanneke', daysAgo - 0.5, 'Half-year', 'What the trust saw in spring.');
  }
  await sit('hanneke', making.at(6, 19), (hand) => hand.put(BUDGET, ITEMS, 4, 'paid in full'));
  await making.name(document, 'hanneke', 5.2, 'For the auditors', 'Read and signed by both keyholders.');
  await slips(making, document);
}

function begin(hand: SheetHand): void {
  hand.call(ROTA);
  hand.type(ROTA, 0, ['Sunday', 'Gate', 'Guide', 'Kettle', 'Visitors', 'Tea money'], { bold: true });
  hand.set(ROTA, { frozenRows: 1, frozenColumns: 1 });
  hand.addSheet(BUDGET, 5, 30);
}

function plan(hand: SheetHand): void {
  hand.type(BUDGET, 0, ['Item', 'Planned', 'Spent', 'Left', 'Note'], { bold: true });
  hand.set(BUDGET, { frozenRows: 1 });
  hand.widen(BUDGET, 0, 190);
  hand.widen(BUDGET, 4, 220);
  PLAN.forEach(([item, planned], i) =>
    hand.type(BUDGET, ITEMS + i, [item, planned, null, `=B${ITEMS + i + 1}-C${ITEMS + i + 1}`]),
  );
  const [first, last] = [ITEMS + 1, ITEMS + PLAN.length];
  const total = ITEMS + PLAN.length;
  hand.type(
    BUDGET,
    total,
    ['Total', `=SUM(B${first}:B${last})`, `=SUM(C${first}:C${last})`, `=B${total + 1}-C${total + 1}`],
    { bold: true },
  );
  hand.type(BUDGET, total + 1, ['Tea money', null, null, `=SUM(${ROTA}!F:F)`]);
  hand.look(
    BUDGET,
    Array.from({ length: PLAN.length + 2 }, (_, i) => ITEMS + i),
    [1, 2, 3],
    {
      format: '#,##0.00',
    },
  );
  hand.look(BUDGET, [total], [0, 1, 2, 3, 4], { fill: 'sand' });
}

/** What the treasurer does of an evening: bills are put down, now and then a line is corrected, moved or added. */
function keepBooks(
  hand: SheetHand,
  bills: (readonly [item: string, spent: string, note: string])[],
  random: Random,
): void {
  const [item, spent, note] = bills.shift() ?? ['', '', ''];
  const row = hand.rowOf(BUDGET, item);
  if (row > 0) hand.type(BUDGET, row, [null, null, spent, null, note || null]);
  else if (item) {
    const total = hand.rowOf(BUDGET, 'Total');
    if (total < 0) return;
    hand.insertRow(BUDGET, total - 1);
    hand.type(BUDGET, total - 1, [item, spent, spent, `=B${total}-C${total}`, note || null]);
  }
  const other = random.between(ITEMS + 1, ITEMS + 3);
  if (random.chance(0.4)) hand.look(BUDGET, [other], [0], { fill: random.pick(['reed', '', 'rose']) });
  if (random.chance(0.3)) hand.moveRow(BUDGET, other, other + 2);
}

type Sit = (who: PersonId, at: number, work: (hand: SheetHand) => void) => Promise<number>;

/** What was spent, and three items with it, vanish at one stroke; the treasurer puts it back. */
async function disaster(making: Making, document: Stored, at: number, sit: Sit): Promise<void> {
  const end = await sit('petru', at, (hand) => hand.wipe(BUDGET, [2, 5], 2));
  await making.rescue(document, 'hanneke', end + 47 * MINUTE, 'All that was spent had gone from the budget.');
}

/** What should never have been in it: a version kept by mistake, and the number of somebody's account. */
async function slips(making: Making, document: Stored): Promise<void> {
  const { app } = making;
  const mairead = making.person('mairead');
  const owner = ownView(document, mairead.key);
  const wrote = await making.sitAt(document, 'petru', making.at(5, 9.4), (seat) => {
    const hand = new SheetHand(seat, new Random(47));
    const row = hand.rowOf(BUDGET, 'Oars and rowlocks');
    hand.put(BUDGET, Math.max(ITEMS, row), 4, `goes to Hanneke, ${ACCOUNT}`);
    return hand;
  });
  const kept = await app.documents.keep(document, making.person('petru'), {
    comment: 'Oops, wrong button',
    at: wrote + MINUTE,
  });
  await app.versions.cutDue(document.key, wrote + 11 * MINUTE);
  await app.discards.put(owner, mairead, kept.number, making.at(4, 10));
  const found = await app.erasures.preview(owner, mairead, { find: ACCOUNT });
  await app.erasures.begin(owner, mairead, {
    preview: found.id,
    reason: 'Somebody’s own account; ask Hanneke for it',
  });
  await app.eraser.idle();
}
