import type { OrganisationPatch, OrganisationSettings } from '@oxbow/contract';
import type { Transaction } from 'sequelize';
import type { FactName, Facts } from '../store/facts.js';

/** What an organisation decides, under the names it is kept by, and as it is until then. */
const KEPT: Readonly<Record<keyof OrganisationSettings, FactName>> = {
  name: 'organisation',
  invites: 'invites',
  guests: 'guests',
  binDays: 'binDays',
  secondOwner: 'secondOwner',
};
const FIRST: OrganisationSettings = {
  name: 'Oxbow Tide',
  invites: 'admins',
  guests: 'everybody',
  binDays: 30,
  secondOwner: false,
};

/** What the organisation has decided. */
export class Settings {
  constructor(private readonly facts: Facts) {}

  /** Read as part of a transaction where one is given. */
  async get(transaction?: Transaction): Promise<OrganisationSettings> {
    const held = await this.facts.all(transaction);
    const [binDays, secondOwner] = [held.get(KEPT.binDays), held.get(KEPT.secondOwner)];
    return {
      name: held.get(KEPT.name) ?? FIRST.name,
      invites: (held.get(KEPT.invites) as OrganisationSettings['invites'] | undefined) ?? FIRST.invites,
      guests: (held.get(KEPT.guests) as OrganisationSettings['guests'] | undefined) ?? FIRST.guests,
      binDays: binDays === undefined ? FIRST.binDays : Number(binDays),
      secondOwner: secondOwner === undefined ? FIRST.secondOwner : secondOwner === 'true',
    };
  }

  async change(patch: OrganisationPatch): Promise<OrganisationSettings> {
    for (const [name, value] of Object.entries(patch) as [
      keyof OrganisationSettings,
      string | number | boolean,
    ][])
      await this.facts.keep(KEPT[name], typeof value === 'string' ? value.trim() : String(value));
    return this.get();
  }
}
