import type { View } from '../access/view.js';
import { Trouble } from '../trouble/trouble.js';
import type { Ways } from './ways.js';

/** A document as somebody has it now, after something was done to it. */
export async function fresh({ people }: Ways, { id, person }: View): Promise<View> {
  const found = await people.standings.view(id, person);
  if (!found) throw new Trouble(404, 'There is no such document');
  return found.view;
}
