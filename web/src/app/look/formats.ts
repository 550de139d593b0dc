import { FORMATS } from '@oxbow/core/formats/about';
import type { Format } from '@oxbow/core/formats';

/** Formats that documents are saved in, with their names, in the order they are offered. */
export const FORMAT_CHOICES = (Object.keys(FORMATS) as Format[]).map((id) => ({
  id,
  name: FORMATS[id].name,
}));
