import type { Text } from '../prose.js';

/** The field notes from the saltmarsh. */
export const NOTES: Text = {
  sections: [
    {
      title: 'Saltmarsh field notes',
      paragraphs: [
        [
          'Counts are made from the sea wall, an hour either side of low water.',
          'Two people count, one writes, and a number on which they do not agree is counted again.',
          'Wind above force five: no count.',
        ],
        [
          'Spring was late; the first glasswort showed on 3 May, nine days after last year.',
          'The upper creek has shifted by a boot’s width at pin 2 and not at all at pin 3.',
        ],
        [
          'Nine pairs of redshank on territory, two more than last year.',
          'Four nests found without looking for them, and left alone.',
          'One clutch lost to the spring tide of the 27th.',
        ],
        [
          'Sea lavender is spreading downhill, against the book.',
          'It now stands in square 14, where only aster was.',
          'A square of turf that was lifted in 2019 for the cable has closed.',
        ],
        [
          'In August the little egrets roosted in the withies for the first time, seven of them.',
          'They left with the first northerly.',
          'Brent geese back on 2 October, 340, counted on the fields at dusk.',
        ],
        [
          'The sediment plates gained four millimetres since March.',
          'Plate 6 is lost; somebody has pulled it out and put it on the wall, perhaps to be helpful.',
          'Silt from plate 2 has been sent to the college.',
        ],
      ],
    },
  ],
  drafts: [
    ['Saltmarsh field notes', 'Number to be checked with the notebook.'],
    ['Saltmarsh field notes', 'Rain came through the page here.'],
    ['Saltmarsh field notes', 'Ask Petru which creek he meant.'],
  ],
  turns: [
    ['an hour either side of low water', 'from an hour before low water to an hour after it'],
    ['is counted again', 'is counted anew'],
    ['by a boot’s width', 'by eleven centimetres'],
    ['two more than last year', 'two more than the year before'],
    ['against the book', 'against everything one reads'],
    ['seven of them', 'seven birds'],
    ['perhaps to be helpful', 'meaning well'],
    ['gained four millimetres', 'gained 4 mm'],
  ],
};
