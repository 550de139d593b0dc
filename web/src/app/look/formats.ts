import type { DocumentSummary } from '@oxbow/contract';
import { FORMATS } from '@oxbow/core/formats/about';
import type { Format } from '@oxbow/core/formats';

/** Formats that documents of a kind are saved in, with their names, in the order they are offered. */
export function formatsOf(kind: DocumentSummary['kind']): readonly { id: Format; name: string }[] {
  return (Object.keys(FORMATS) as Format[]).flatMap((id) =>
    FORMATS[id].kinds.includes(kind) ? [{ id, name: FORMATS[id].name }] : [],
  );
}
