/** What was talked about and agreed at the trust's meetings, one a month, the oldest first. */
export const MINUTES: readonly { readonly said: string; readonly agreed: string }[] = [
  {
    said: 'Tobias reported on the storm: two planks gone from the gate, and the sill to be looked at by a diver. The pool stays empty until then.',
    agreed: 'A diver is hired for the next neap tide; Hanneke may spend up to 600 euro.',
  },
  {
    said: 'The diver’s report was read. Ines asked whether the village knows what the sluice does for its ditches; nobody was sure.',
    agreed: 'Ines writes to the county’s engineer. The sill is stopped with sandbags by Saturday.',
  },
  {
    said: 'Opening day was talked through. The hut needs a stove pipe and a second kettle. Jun asked for a rope along the nests.',
    agreed:
      'Mairead buys the pipe and the rope. The guide goes to the printer as it stands on the first of the month.',
  },
  {
    said: 'Ninety visitors on the first Sunday, and one lost boot. The film of the stones has no sound on the old screen.',
    agreed: 'Petru looks for a loudspeaker. Boots in three sizes are kept at the door.',
  },
  {
    said: 'Hanneke told of a fund that pays for works on water mills. It closes in the autumn and wants drawings.',
    agreed: 'We apply. Tobias draws the gate, Hanneke writes, Ines reads.',
  },
  {
    said: 'The boat day was moved because of the regatta. Wilmot Strake of the harbour office offers to read the briefing.',
    agreed:
      'Six places a boat, not eight. Mairead sends the briefing to the harbour office before it is used.',
  },
  {
    said: 'Somebody has taken a sediment plate out of the marsh. Jun does not want a sign, for a sign would tell where the others are.',
    agreed: 'No sign. The guides mention it at post 7.',
  },
  {
    said: 'The summer leaflet is out, two thousand of them. Two readers have written that the stones did not come from the Rhine but from the Moselle.',
    agreed: 'Tobias writes to the quarry. Until then the sentence stays.',
  },
  {
    said: 'The quarry has answered: the Rhine. The engineer’s letter has come and says that forty houses depend on the sluice.',
    agreed: 'The letter goes into the application, in full.',
  },
  {
    said: 'The visitor guide was read aloud from beginning to end. It took nineteen minutes, with tea.',
    agreed: 'The guide is agreed as read. Ines gives that version a name.',
  },
  {
    said: 'Most of the guide was gone for an hour one afternoon and was brought back the same day. Petru apologised; nobody minded, for nothing was lost.',
    agreed: 'New volunteers are shown how to go back before they are shown how to write.',
  },
  {
    said: 'The application is nearly done. Hanneke asked everybody to read the costs once more and to leave the rest alone.',
    agreed: 'It is sent on Friday as it stands then. The geese are back.',
  },
];
