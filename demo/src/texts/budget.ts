/** What the budget of the season plans, in pounds. */
export const PLAN: readonly (readonly [item: string, planned: string])[] = [
  ['Oars and rowlocks', '640'],
  ['Life jackets', '1180'],
  ['Tar, oakum and rope', '415.50'],
  ['Tea, milk and biscuits', '520'],
  ['Leaflets', '780'],
  ['Insurance of the boat', '1325'],
  ['First-aid course', '450'],
  ['Paint for the landing stage', '232.80'],
];

/** Bills as they came in over the year: what for, how much by then, and a word about it. What was not planned becomes a line of its own. */
export const LATER_COSTS: readonly (readonly [item: string, spent: string, note: string])[] = [
  ['Leaflets', '780', '2,000 copies'],
  ['Oars and rowlocks', '312', 'first pair'],
  ['Tea, milk and biscuits', '96.40', ''],
  ['Life jackets', '1245.60', 'two more than planned'],
  ['Tar, oakum and rope', '208.15', ''],
  ['Bilge pump', '164.90', 'the old one gave up in May'],
  ['Tea, milk and biscuits', '241.75', ''],
  ['Insurance of the boat', '1325', ''],
  ['Paint for the landing stage', '198.20', 'half of it given'],
  ['Oars and rowlocks', '598', 'second pair'],
  ['First-aid course', '450', 'nine people'],
  ['Tea, milk and biscuits', '388.10', ''],
  ['Lantern for the jetty', '87.50', ''],
  ['Tar, oakum and rope', '431.05', 'over by a coil of rope'],
  ['Tea, milk and biscuits', '467.30', ''],
];
