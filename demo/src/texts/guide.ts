import type { Line, Text } from '../prose.js';

/** A passage that somebody wrote, and somebody else took out. */
export const DOG: Line = {
  section: 'The pool and the sluice',
  sentence:
    'His dog, a spaniel called Ebb, barked when the gates fell shut, and is said never to have been wrong by more than a minute.',
  after: [],
  behind: 'So the mill worked to the moon and not to the sun.',
};

/** What somebody wrote a moment ago. */
export const KETTLE: Line = {
  section: 'Before you come',
  sentence: 'Bring something warm: the reed hut has benches and a stove, and, since the spring, a kettle.',
  after: [],
  behind: 'It costs nothing to come.',
};

/** The visitor guide: what it says in the end, what was said on the way and dropped, and what was put otherwise. */
export const GUIDE: Text = {
  sections: [
    {
      title: 'Walking the Withy tide mill',
      paragraphs: [
        [
          'The mill stands where the creek meets the marsh.',
          'Nothing but the tide has ever driven it.',
          'This walk takes an hour and a half at an easy pace, and ends where it begins, at the sluice bridge.',
        ],
        [
          'Nine stops are marked with oak posts.',
          'Each has a number burnt into its top, and each is told here in a few lines.',
          'You need not read it all: the posts make sense by themselves, and the volunteers at the door like being asked.',
        ],
      ],
    },
    {
      title: 'The wheel and the race',
      paragraphs: [
        [
          'The wheel is five metres across and made of elm, with a shaft of oak.',
          'It is undershot: the water strikes the floats from below and is gone.',
          'Elm stays sound as long as it is wet, which is why the wheel is turned by hand in dry weather.',
          'Of its forty floats six are still those of 1883.',
        ],
        [
          'The race is the channel that brings the water from the pool to the wheel.',
          'It was cut through clay, by hand, in one summer, and lined with planks from broken barges.',
          'Look for the caulking between the planks: it is tarred rope, driven in with a mallet as in a boat.',
        ],
        [
          'From the wheel the power goes up through the floor by a pair of wooden gears.',
          'The teeth are apple wood, because apple breaks before iron does, and a tooth is made in an afternoon.',
          'The big gear is called the pit wheel, the small one the wallower.',
          'Children may count the teeth; the answer is on the back of post 3.',
        ],
        [
          'The stones lie on the first floor.',
          'They came by sea from the Rhine, in ballast, and were dressed every three weeks with a steel bill.',
          'In a good ebb they ground three sacks of barley.',
          'The grooves you feel with your finger are called furrows; they carry the meal outwards and the heat with it.',
        ],
      ],
    },
    {
      title: 'The pool and the sluice',
      paragraphs: [
        [
          'Twice a day the pool behind the dam fills with the rising tide, and twice a day it is let out through the wheel.',
          'Two gates in the dam open by themselves when the sea stands higher than the pool.',
          'At high water they fall shut, and from then on the miller had about five hours of work.',
        ],
        [
          'So the mill worked to the moon and not to the sun.',
          'The last miller, Abel Corry, rose fifty minutes later every day and went to bed when the stones were bare.',
          'His slate with the hours still hangs beside the door.',
          'He worked here until 1938, and afterwards came down to listen.',
        ],
        [
          'The sluice at post 5 lets the pool down in one go, for cleaning.',
          'Its gate weighs four tonnes and is raised with a rack and a lever as long as a man.',
          'The gate you see was hung in 1911.',
          'It leaks at both sides, and a new one is being built: the oak is seasoning under the lean-to.',
          'Please do not lean on the rail while the gate is moving.',
        ],
        [
          'On spring tides the pool holds more water than the wheel can use.',
          'What is too much goes over the weir at the far end, where the eel trap was found.',
          'The trap is a basket of split hazel two metres long, and lies in the reed hut behind glass.',
        ],
      ],
    },
    {
      title: 'The saltmarsh',
      paragraphs: [
        [
          'Beyond the sea wall the ground belongs to the tide.',
          'It looks like meadow and is not: every plant here can stand in salt water, and few could live anywhere else.',
          'Glasswort grows lowest and reddens in September.',
          'Above it come sea aster and sea purslane, and along the wall sea lavender, which flowers in July.',
        ],
        [
          'The creeks are older than the map.',
          'They move a little with each winter, and now and then one closes and another opens.',
          'Since 1994 the trust has measured one of them, at post 7, where the iron pins are.',
        ],
        [
          'Redshank nest within a stone’s throw of the path, so dogs stay on a lead until the end of August.',
          'You will hear them before you see them; they call when they think you have come too close.',
          'If they do, you have, and a few steps back are enough.',
          'In winter brent geese come down from the fields at dusk, several hundred together.',
        ],
        [
          'The marsh keeps the sea from the wall.',
          'Each spring tide leaves a film of silt no thicker than paper, and the plants hold it.',
          'Where the marsh is forty metres wide, a wave that breaks at its edge reaches the wall as a ripple.',
        ],
      ],
    },
    {
      title: 'Before you come',
      paragraphs: [
        [
          'The mill is open on Sundays from Easter to the end of September, and works when the tide allows.',
          'The hours are on the board at the gate and in the tide table of the trust.',
          'Meet at the sluice bridge an hour before low water, in boots.',
          'Where the path crosses the creek it is under water at springs, and the guide will turn you back rather than let you wade.',
        ],
        [
          'The ground floor can be reached with a wheelchair; the stones cannot, but there is a film of them, with the sound.',
          'A bench stands at every second post.',
          'There is no lighting on the sea wall.',
        ],
        [
          'It costs nothing to come.',
          'The box by the door pays for oak.',
          'Groups of more than twelve write to us first, please, so that somebody has swept.',
        ],
      ],
    },
  ],
  drafts: [
    ['The wheel and the race', 'Somebody should check when the wheel was last repaired.'],
    ['The wheel and the race', 'There is a photograph of this that we could use.'],
    ['The pool and the sluice', 'I am not sure that this is the right word for it.'],
    ['The pool and the sluice', 'Ask Tobias how the gate is held open.'],
    ['The saltmarsh', 'More about the birds here, once Jun has counted them.'],
    ['The saltmarsh', 'This part is rather long.'],
    ['Before you come', 'We have to say something about the car park.'],
    ['Walking the Withy tide mill', 'A map would help.'],
  ],
  turns: [
    ['at an easy pace', 'without hurrying'],
    ['Nine stops are marked', 'Nine places are marked'],
    ['a few lines', 'a few words'],
    ['strikes the floats from below', 'pushes the floats from below'],
    ['stays sound as long as it is wet', 'does not rot as long as it is wet'],
    ['in one summer', 'in a single summer'],
    ['from broken barges', 'from old barges'],
    ['driven in with a mallet', 'beaten in with a mallet'],
    ['by a pair of wooden gears', 'by two wooden gears'],
    ['in an afternoon', 'within a day'],
    ['every three weeks', 'every few weeks'],
    ['three sacks of barley', 'three or four sacks of barley'],
    ['carry the meal outwards', 'lead the meal outwards'],
    ['about five hours of work', 'some five hours of work'],
    ['rose fifty minutes later every day', 'got up fifty minutes later every day'],
    ['came down to listen', 'came down every evening to listen'],
    ['weighs four tonnes', 'weighs about four tonnes'],
    ['as long as a man', 'two metres long'],
    ['is seasoning under the lean-to', 'lies seasoning under the lean-to'],
    ['goes over the weir', 'runs over the weir'],
    ['belongs to the tide', 'is the tide’s'],
    ['reddens in September', 'turns red in September'],
    ['older than the map', 'older than any map'],
    ['within a stone’s throw of the path', 'close to the path'],
    ['a few steps back are enough', 'a few steps back will do'],
    ['several hundred together', 'hundreds together'],
    ['no thicker than paper', 'as thin as paper'],
    ['works when the tide allows', 'works whenever the tide allows'],
    ['rather than let you wade', 'before he lets you wade'],
    ['so that somebody has swept', 'so that we can be ready'],
  ],
};
