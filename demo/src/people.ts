/** The invented people of the Withy Mill Trust. Every password is "tidemill". */
export const PEOPLE = [
  {
    id: 'ines',
    name: 'Ines Okell',
    initials: 'IO',
    email: 'ines@withy.example',
    about: 'keeps the trust together and writes most of the guide',
  },
  {
    id: 'tobias',
    name: 'Tobias Rahn',
    initials: 'TR',
    email: 'tobias@withy.example',
    about: 'millwright; knows the wheel and the stones',
  },
  {
    id: 'mairead',
    name: 'Mairead Quill',
    initials: 'MQ',
    email: 'mairead@withy.example',
    about: 'boats, volunteers and the rota',
  },
  {
    id: 'jun',
    name: 'Jun Asari',
    initials: 'JA',
    email: 'jun@withy.example',
    about: 'counts birds and plants on the saltmarsh',
  },
  {
    id: 'hanneke',
    name: 'Hanneke Voss',
    initials: 'HV',
    email: 'hanneke@withy.example',
    about: 'treasurer; writes the grant applications',
  },
  {
    id: 'petru',
    name: 'Petru Dalca',
    initials: 'PD',
    email: 'petru@withy.example',
    about: 'new volunteer, still finding his way about',
  },
] as const;

export type PersonId = (typeof PEOPLE)[number]['id'];
