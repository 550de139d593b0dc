import type { Text } from '../prose.js';

/** The application for the sluice. */
export const APPLICATION: Text = {
  sections: [
    {
      title: 'Rebuilding the sluice: an application',
      paragraphs: [
        [
          'We ask for help to rebuild the sluice of the last working tide mill on this coast.',
          'The work takes one winter, and costs less than a metre of new sea wall.',
        ],
        [
          'The Withy Mill Trust has kept the mill since 1986.',
          'It has forty-one members, no debts, and eleven people who can work the gate.',
        ],
      ],
    },
    {
      title: 'Why now',
      paragraphs: [
        [
          'The gate has held since 1911 and will not hold another winter.',
          'In the January storm it lost two planks, and for nine days the pool could not be filled.',
          'A diver found the sill undercut for a third of its length.',
        ],
        [
          'If the sill goes, the dam goes with it.',
          'The pool is also where the village’s ditches drain to: without the sluice forty houses would depend on a hired pump.',
          'The county’s engineer has put that in writing; her letter is enclosed.',
        ],
        [
          'The oak has been bought and has seasoned for two years.',
          'It cannot lie much longer without being worked.',
        ],
      ],
    },
    {
      title: 'How it will be done',
      paragraphs: [
        [
          'A dam of sheet piles keeps the sea out from October to March.',
          'The sill is rebuilt in the stone it was built in, from the same quarry.',
          'The gate is made at the mill, by volunteers under a millwright, where visitors can watch.',
        ],
        [
          'We work outside the nesting season.',
          'An observer counts birds on the marsh every week and can stop the work.',
          'What the work taught us will be published, with drawings, for the other mills.',
        ],
      ],
    },
    {
      title: 'What the trust gives',
      paragraphs: [
        [
          'Six thousand euro in volunteers’ days, counted at the rate of the fund.',
          'The oak, which is paid for.',
          'Ten years of upkeep, for which the income of the open Sundays is set aside.',
        ],
      ],
    },
  ],
  drafts: [
    ['Why now', 'Hanneke will put in the figures of the pump.'],
    ['How it will be done', 'Is this too technical for them?'],
    ['What the trust gives', 'Somebody should add it up again.'],
    ['Rebuilding the sluice: an application', 'Shorten this before it is sent.'],
  ],
  turns: [
    ['takes one winter', 'can be done in one winter'],
    ['has kept the mill since 1986', 'has looked after the mill since 1986'],
    ['who can work the gate', 'who are trained to work the gate'],
    ['will not hold another winter', 'is not likely to hold another winter'],
    ['for a third of its length', 'for more than a third of its length'],
    ['would depend on a hired pump', 'would depend on a pump'],
    ['her letter is enclosed', 'we enclose her letter'],
    ['where visitors can watch', 'in sight of the visitors'],
    ['and can stop the work', 'and has the right to stop the work'],
    ['for the other mills', 'for other mills'],
    ['is set aside', 'will be set aside'],
  ],
};
