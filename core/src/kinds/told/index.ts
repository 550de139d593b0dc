import type { Node } from 'prosemirror-model';
import type { Change } from '../../compare/index.js';
import { gistOf } from '../../compare/index.js';
import type { KindName } from '../index.js';
import { kindOf } from '../index.js';
import { sheetGist } from '../sheet/gist.js';

/** Kinds whose differences are told otherwise than by the list of their changes. */
const GISTS: Readonly<Partial<Record<KindName, (earlier: Node, later: Node) => string>>> = {
  sheet: sheetGist,
};

/** What is different between two documents that were compared, in a line. */
export function toldGist(earlier: Node, later: Node, changes: readonly Change[]): string {
  const gist = GISTS[kindOf(later).name];
  return gist && earlier.type.schema === later.type.schema ? gist(earlier, later) : gistOf(changes);
}
