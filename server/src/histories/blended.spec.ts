import { blankDocument, textSchema } from '@oxbow/core/kinds/text';
import { Random, change, word } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import type { StoredEdit } from '../store/log.js';
import { blended } from './blended.js';

describe('edits that somebody missed who has a document only as it is now', () => {
  const applied = (doc: Node, edit: StoredEdit): Node =>
    (JSON.parse(edit.steps) as object[]).reduce<Node>((before, json) => {
      const { doc: after, failed } = Step.fromJSON(textSchema, json).apply(before);
      if (!after) throw new Error(failed ?? 'not applied');
      return after;
    }, doc);

  it('lead to what is there now, keep their own, and tell nothing of who, when and what was between', async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = new Random(seed);
      const fresh = (count: number): string => Array.from({ length: count }, () => word(random)).join(' ');
      let doc = blankDocument();
      for (let i = 0; i < 8; i++) doc = change(random, doc, fresh, true).doc;
      const before = doc;
      const edits: StoredEdit[] = [];
      for (let seq = 1; seq <= 12; seq++) {
        const tr = change(random, doc, fresh, true);
        doc = tr.doc;
        edits.push({
          document: 1,
          seq,
          author: random.chance(0.3) ? 7 : 8,
          client: 'someone.client',
          counter: seq,
          acceptedAt: 1,
          writtenAt: 1,
          schema: 1,
          steps: JSON.stringify(tr.steps.map((step) => step.toJSON() as object)),
          sources: '[]',
          quoted: null,
          cause: '{"kind":"writing"}',
          wordsIn: 3,
          wordsOut: 1,
        });
      }
      const told = await blended(edits, before, ({ author }) => author === 7);
      expect(told.map(({ seq }) => seq)).toEqual(edits.map(({ seq }) => seq));
      let now = before;
      for (const [i, edit] of told.entries()) {
        now = applied(now, edit);
        const given = edits[i] as StoredEdit;
        if (given.author === 7) {
          expect(edit).toBe(given);
          continue;
        }
        const { author, client, counter, sources, cause, wordsIn, wordsOut } = edit;
        expect([author, client, counter, sources, cause, wordsIn, wordsOut]).toEqual([
          0,
          '',
          0,
          null,
          null,
          0,
          0,
        ]);
        const isLast = edits[i + 1] === undefined || edits[i + 1]?.author === 7;
        if (!isLast) expect(edit.steps).toBe('[]');
      }
      expect(now.eq(doc)).withContext(`seed ${seed}`).toBeTrue();
    }
  });
});
