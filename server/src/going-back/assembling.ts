import type { AsideInput, AssembledFileInput, AssemblyInput, Outcome } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import { kindOf } from '@oxbow/core/kinds';
import type { Node } from 'prosemirror-model';
import type { Signed } from '../access/people.js';
import type { Images } from '../store/images.js';
import { Trouble } from '../trouble/trouble.js';
import type { Comparisons } from '../compare/comparisons.js';
import type { Documents } from '../documents/documents.js';
import type { Places } from '../documents/places.js';
import type { Becoming } from './becoming.js';
import type { View } from '../access/view.js';
import type { Histories } from '../histories/histories.js';

/** What was assembled, from which moments. */
interface Assembled {
  readonly target: Node;
  readonly earlier: Node;
  readonly base: { readonly doc: Node; readonly seq: number };
  readonly cause: Extract<Cause, { kind: 'assembly' }>;
}

/** Puts decisions about the changes between two moments together: on top of the later one's document, or as one of its own. */
export class Assembling {
  constructor(
    private readonly documents: Documents,
    private readonly places: Places,
    private readonly histories: Histories,
    private readonly becoming: Becoming,
    private readonly comparisons: Comparisons,
    private readonly images: Images,
  ) {}

  /** On top, as the next version. What was written after the later moment is kept. `other` is what `earlier` is a moment of. */
  async put(document: View, other: View, person: Signed, input: AssemblyInput): Promise<Outcome> {
    const { target, earlier, base, cause } = await this.assembled(document, other, input);
    if (document.key !== other.key) await this.images.lend(other.key, document.key, target);
    return this.becoming.become(
      document,
      person,
      cause,
      async () => ({
        target,
        base,
        from: [
          { doc: earlier, seq: cause.earlier, ...(document.key === other.key ? {} : { document: other.id }) },
        ],
      }),
      { comment: input.comment, major: input.major },
    );
  }

  /** As a document of its own. */
  async aside(document: View, other: View, person: Signed, input: AsideInput): Promise<View> {
    const { target, earlier, base, cause } = await this.assembled(document, other, input);
    const from = [
      { doc: base.doc, seq: base.seq, document: document.id },
      { doc: earlier, seq: cause.earlier, document: other.id },
    ];
    const about = {
      title: input.title,
      collection: input.collection ?? null,
      at: Date.now(),
      kind: kindOf(target).name,
      origin: { other: document.key, seq: base.seq + document.first },
    };
    return this.documents.make(person, about, async (view) => {
      for (const source of new Set([document.key, other.key]))
        await this.images.lend(source, view.key, target);
      await this.becoming.become(view, person, cause, async () => ({ target, from }));
    });
  }

  /** The document that the decisions make, and what it was made from. */
  async assembled(
    document: View,
    other: View,
    input: AssemblyInput | AsideInput | AssembledFileInput,
  ): Promise<Assembled> {
    const [before, after] = await Promise.all([
      this.places.seqOf(other, input.earlier, 'earlier'),
      this.places.seqOf(document, input.later, 'later'),
    ]);
    if (document.key === other.key && before > after)
      throw Trouble.field('earlier', 'comes after the later moment');
    const [earlier, doc] = await Promise.all([
      this.histories.moment(other, before),
      this.histories.moment(document, after),
    ]);
    const takes = input.decisions.map(({ change, take }) => [change, take] as const);
    const target = await this.comparisons.assembled(earlier, doc, {
      takes,
      otherwise: input.otherwise ?? 'later',
    });
    const title = document.key === other.key ? '' : other.title;
    const cause = {
      kind: 'assembly',
      document: document.id,
      other: other.id,
      title,
      earlier: before,
      later: after,
    } as const;
    return { target, earlier, base: { doc, seq: after }, cause };
  }
}
