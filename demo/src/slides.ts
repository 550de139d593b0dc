import { Random } from '@oxbow/core/testing';
import type { Making } from './making.js';
import { MINUTE } from './making.js';
import type { PersonId } from './people.js';
import { DeckHand } from './deck-hand.js';
import { boatPlan, tideCurve } from './pictures.js';

const [TITLE, BEFORE, PLACES, ABOARD, TIDE, WRONG, AFTER] = [
  'A day on the water',
  'Before you step in',
  'Six places a boat',
  'What is on board',
  'The tide decides',
  'When something goes wrong',
  'Back at the mill',
] as const;

/** Days ago on which the deck was begun. */
const FIRST = 96;

/** The slides for boat days: one deck, kept in three named variants under one link. */
export async function makeSlides(making: Making): Promise<void> {
  const document = await making.document('Boat days, in slides', 'volunteers', 'mairead', FIRST, 'deck');
  const [tide, boat] = await Promise.all(
    [tideCurve(), boatPlan()].map((picture) => making.app.images.store(document.key, picture)),
  );
  const random = new Random(61);
  const sit = async (
    who: PersonId,
    daysAgo: number,
    hour: number,
    work: (hand: DeckHand) => void,
  ): Promise<void> => {
    const end = await making.sitAt(document, who, making.at(daysAgo, hour), (seat) => {
      const hand = new DeckHand(seat, random);
      work(hand);
      return hand;
    });
    await making.cut(document, end + 11 * MINUTE);
  };
  await sit('mairead', FIRST, 17.5, begin);
  await sit('jun', FIRST - 1, 19, (hand) => draw(hand, tide?.hash ?? '', boat?.hash ?? ''));
  await sit('petru', FIRST - 3, 20.2, (hand) => {
    hand.write(WRONG, [
      'Whoever falls in: throw line first, oar second, nobody jumps after them',
      'Fog: turn round at once, bell every minute',
      'Engine or oar lost: anchor, wave, wait for the second boat',
      'Radio channel 12, the mill listens',
    ]);
    hand.notes(WRONG, 'Show the throw line. Let two people throw it on the landing stage.');
  });
  await sit('mairead', FIRST - 5, 18, (hand) => hand.move(TIDE, 2));
  const crew = await making.name(
    document,
    'mairead',
    FIRST - 6,
    'For the crew',
    'What every new hand in a boat is shown.',
  );

  await sit('jun', 61, 16, (hand) => forSchools(hand));
  await making.name(
    document,
    'jun',
    60,
    'For schools',
    'Two classes of the village school, with their teachers.',
  );

  const versions = await making.app.versions.list(document.key, 2 ** 30, 1000);
  const { number = 0 } = versions.find(({ seq }) => seq === crew) ?? {};
  const comment = 'Back to the slides for the crew';
  await making.goBack(document, 'mairead', making.at(33, 10), comment, { seq: crew, number });
  await sit('hanneke', 32.5, 11, forHarbour);
  await making.name(
    document,
    'hanneke',
    32,
    'For the harbour office',
    'As shown when the licence was renewed.',
  );

  await sit('mairead', 2, 18.4, (hand) => {
    hand.write(ABOARD, [
      'Oars, two pairs and one spare',
      'Bailer and a sponge',
      'Throw line, dry and coiled',
      'First-aid box, checked in spring',
      'Flask of something hot',
    ]);
    hand.put(TIDE, 'frame', { x: 6600, y: 2700, width: 8600, height: 4010 });
  });
  await sit('petru', 1, 20, (hand) => hand.title(AFTER, 'Back at the mill, and dry'));
}

function begin(hand: DeckHand): void {
  hand.add(TITLE);
  hand.write(TITLE, ['Withy Mill Trust, boats and volunteers']);
  hand.notes(TITLE, 'Say who you are, and who has never been in a boat.');
  hand.add(BEFORE);
  hand.write(BEFORE, [
    'Life jacket on before the landing stage, and closed',
    'Shoes that may get wet',
    'Tell the steward if you cannot swim',
    'Nobody stands up under way',
  ]);
  hand.notes(BEFORE, 'Check every jacket by hand. Do not only ask.');
  hand.add(PLACES, 'picture');
  hand.write(PLACES, ['One steward at the stern', 'Weight in the middle', 'Children between two adults']);
  hand.add(ABOARD);
  hand.write(ABOARD, [
    'Oars, two pairs and one spare',
    'Bailer',
    'Tide table of the day',
    'First-aid box',
    'Flask of something hot',
  ]);
  hand.add(TIDE, 'picture');
  hand.write(TIDE, ['Away an hour before high water', 'Back before the ebb runs hard']);
  hand.notes(TIDE, 'The posts on the curve are when we leave and when we are back.');
  hand.add(WRONG);
  hand.add(AFTER, 'two');
  hand.write(AFTER, ['Jackets on the line', 'Oars under the roof', 'Write down who was out']);
  hand.write(AFTER, ['Tea is in the granary'], 1);
}

function draw(hand: DeckHand, tide: string, boat: string): void {
  hand.picture(PLACES, boat, 'A boat from above: six places in three pairs', {
    x: 7400,
    y: 2900,
    width: 7800,
    height: 3640,
  });
  hand.put(PLACES, 'box', { width: 6000 });
  hand.picture(TIDE, tide, 'The water over a day with two tides, and when boats leave and come back', {
    x: 6800,
    y: 3000,
    width: 8400,
    height: 3920,
  });
  hand.put(TIDE, 'box', { width: 5200 });
}

/** Fewer words, and nothing that frightens. */
function forSchools(hand: DeckHand): void {
  hand.title(TITLE, 'Our day in the boats');
  hand.write('Our day in the boats', ['For classes three and four']);
  hand.write(BEFORE, ['Jacket on, and click', 'Shoes that may get wet', 'We sit all the time']);
  hand.hide(WRONG);
  hand.remove(ABOARD);
  hand.add('What will we see?');
  hand.write('What will we see?', ['Redshanks', 'Crabs under the sluice', 'The wheel from below']);
  hand.notes('What will we see?', 'Ask first; they know more than we do.');
  hand.move('What will we see?', 1);
}

/** What an office wants to know, and where it is. */
function forHarbour(hand: DeckHand): void {
  hand.title(TITLE, 'Boat days of the Withy Mill Trust');
  hand.write('Boat days of the Withy Mill Trust', ['Shown to the harbour office for the licence']);
  hand.move(WRONG, 1);
  hand.add('Numbers of the season', 'two');
  hand.write('Numbers of the season', ['41 days on the water', '318 people carried', 'No injuries'], 0);
  hand.write(
    'Numbers of the season',
    ['Nine stewards with a first-aid course', 'Jackets tested in March'],
    1,
  );
  hand.move('Numbers of the season', 2);
  hand.hide(AFTER);
}
