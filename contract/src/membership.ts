import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, Time, closed, nullable } from './primitives.js';
import { Person } from './shapes.js';

const Email = Type.String({ format: 'email', maxLength: 200 });
const Password = Type.String({ minLength: 1, maxLength: 200 });
const Called = Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' });

/** Colours that a person may choose from. */
export const PERSON_COLOURS = 6;

/** How somebody is told to others. */
const profile = {
  name: Called,
  initials: Type.String({ minLength: 1, maxLength: 3, pattern: '^\\S+$' }),
  colour: Type.Integer({ minimum: 0, maximum: PERSON_COLOURS - 1 }),
};

/** How somebody wants things for themselves. */
export const Preferences = Type.Object(
  {
    mail: Type.Union([Type.Literal('none'), Type.Literal('each'), Type.Literal('daily')], {
      description: 'whether notices are mailed: not, each once its sitting is over, or together once a day',
    }),
    holdBack: Type.Boolean({ description: 'whether writing is held back in documents one makes' }),
    theme: Type.Union([Type.Literal('system'), Type.Literal('light'), Type.Literal('dark')]),
    keys: Type.Boolean({ description: 'whether single letters are keys for acts' }),
    dense: Type.Optional(Type.Boolean({ description: 'whether the shelf shows a document a line' })),
    favourites: Type.Optional(
      Type.Array(Id, { maxItems: 500, uniqueItems: true, description: 'documents one has marked' }),
    ),
    guided: Type.Optional(Type.Boolean({ description: 'whether one was shown round' })),
  },
  closed,
);
export type Preferences = Static<typeof Preferences>;

/** Who one is oneself. */
export const Me = Type.Composite([
  Person,
  Type.Object({
    admin: Type.Boolean({ description: 'whether one invites, and lets people in and out' }),
    guest: Type.Boolean({ description: 'whether one is here only for what was shared with one' }),
    mayInvite: Type.Boolean({ description: 'whether one may invite people to the organisation' }),
    preferences: Preferences,
  }),
]);
export type Me = Static<typeof Me>;

/** The organisation whose server this is; without a name nobody has moved in yet. */
export const Organisation = Type.Object({ name: nullable(Type.String()) });
export type Organisation = Static<typeof Organisation>;

/** What an organisation has decided. */
export const OrganisationSettings = Type.Object(
  {
    name: Called,
    invites: Type.Union([Type.Literal('admins'), Type.Literal('everybody')], {
      description: 'who may invite people to the organisation; guests never',
    }),
    guests: Type.Union([Type.Literal('everybody'), Type.Literal('admins'), Type.Literal('none')], {
      description: 'who may share with addresses outside, which makes guests',
    }),
    binDays: Type.Integer({
      minimum: 1,
      maximum: 3650,
      description: 'days after which what is in the bin is deleted for good',
    }),
    secondOwner: Type.Boolean({
      description: 'whether another owner has to agree before something is erased',
    }),
  },
  closed,
);
export type OrganisationSettings = Static<typeof OrganisationSettings>;
export const OrganisationPatch = Type.Partial(OrganisationSettings, { ...closed, minProperties: 1 });
export type OrganisationPatch = Static<typeof OrganisationPatch>;

/** How one is told to others. */
export const ProfileInput = Type.Object(profile, closed);
export type ProfileInput = Static<typeof ProfileInput>;

export const OrganisationInput = Type.Object(
  {
    code: Type.String({ minLength: 1, maxLength: 40, description: 'what the server printed when it began' }),
    organisation: Called,
    email: Email,
    password: Password,
    ...profile,
  },
  closed,
);
export type OrganisationInput = Static<typeof OrganisationInput>;

export const InvitationInput = Type.Object(
  {
    email: Email,
    message: Type.Optional(Type.String({ maxLength: 2000 })),
    guest: Type.Optional(Type.Boolean()),
  },
  closed,
);
export type InvitationInput = Static<typeof InvitationInput>;

/** An invitation that nobody has taken yet. */
export const Invitation = Type.Object({
  id: Id,
  email: Type.String(),
  by: nullable(Id),
  at: Time,
  until: Time,
  guest: Type.Boolean(),
});
export type Invitation = Static<typeof Invitation>;

/** What whoever holds an invitation's link is told of it. */
export const Invited = Type.Object({
  organisation: Type.String(),
  email: Type.String(),
  by: Type.String({ description: 'the name of who invited' }),
});
export type Invited = Static<typeof Invited>;

export const JoinInput = Type.Object({ ...profile, password: Password }, closed);
export type JoinInput = Static<typeof JoinInput>;

export const ForgottenInput = Type.Object({ email: Email }, closed);
export const ResetInput = Type.Object({ password: Password }, closed);

/** Somebody here, as an administrator sees them. */
export const Member = Type.Composite([
  Person,
  Type.Object({
    email: Type.String(),
    admin: Type.Boolean(),
    guest: Type.Boolean(),
    disabled: Type.Boolean({ description: 'whether they may not sign in; their work and its credit stay' }),
    seen: nullable(Time),
  }),
]);
export type Member = Static<typeof Member>;
export const Members = Type.Object({ people: Type.Array(Member), invitations: Type.Array(Invitation) });
export type Members = Static<typeof Members>;

export const MemberPatch = Type.Object(
  { admin: Type.Optional(Type.Boolean()), disabled: Type.Optional(Type.Boolean()) },
  { ...closed, minProperties: 1 },
);
export type MemberPatch = Static<typeof MemberPatch>;
