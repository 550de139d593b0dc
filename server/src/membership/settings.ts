import type { OrganisationPatch, OrganisationSettings } from '@oxbow/contract';
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

  async get(): Promise<OrganisationSettings> {
    const [name, invites, guests, binDays, secondOwner] = await Promise.all([
      this.facts.get(KEPT.name),
      this.facts.get(KEPT.invites),
      this.facts.get(KEPT.guests),
      this.facts.get(KEPT.binDays),
      this.facts.get(KEPT.secondOwner),
    ]);
    return {
      name: name ?? FIRST.name,
      invites: (invites as OrganisationSettings['invites'] | null) ?? FIRST.invites,
      guests: (guests as OrganisationSettings['guests'] | null) ?? FIRST.guests,
      binDays: binDays === null ? FIRST.binDays : Number(binDays),
      secondOwner: secondOwner === null ? FIRST.secondOwner : secondOwner === 'true',
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
