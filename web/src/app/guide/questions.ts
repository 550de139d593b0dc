import type { DocumentSummary } from '@oxbow/contract';

/** Where an answer is shown. */
export interface Place {
  readonly commands: readonly string[];
  readonly queryParams?: Readonly<Record<string, string>>;
}

/** A question people come with, and how it is answered here. */
export interface Question {
  readonly question: string;
  readonly answer: string;
  /** Where that is seen in a document. */
  readonly place: (document: DocumentSummary) => Place;
}

const desk =
  (queryParams?: Record<string, string>) =>
  ({ id }: DocumentSummary): Place => ({
    commands: ['/documents', id],
    ...(queryParams ? { queryParams } : {}),
  });

/** The questions that Oxbow Tide answers. */
export const QUESTIONS: readonly Question[] = [
  {
    question: $localize`Something I need is gone.`,
    answer: $localize`Every passage that left a document is listed, with who removed it and when. One step puts it back where it stood; nothing written since is lost.`,
    place: desk({ room: 'removed' }),
  },
  {
    question: $localize`What happened since I last looked?`,
    answer: $localize`What others wrote is new to you until you have seen it. The band over the page says how much, and a walk goes through it, change by change.`,
    place: desk(),
  },
  {
    question: $localize`How do these two differ?`,
    answer: $localize`Two moments, two documents, or a file from outside: what came, went and moved is marked, and by whom. J and K step through the changes.`,
    place: desk({ history: 'last' }),
  },
  {
    question: $localize`Which one did we agree on?`,
    answer: $localize`A landmark is a name that somebody put on a moment. It stands on the line at the bottom as a post, and its link leads there next year too.`,
    place: ({ id }) => ({ commands: ['/documents', id, 'landmarks', 'latest'] }),
  },
  {
    question: $localize`Whose work is this, and when was it done?`,
    answer: $localize`Every word keeps its writer, through moves, restores and files. Contributors adds it up; “Who wrote what” shows it beside the page.`,
    place: desk({ room: 'contributors' }),
  },
  {
    question: $localize`That should never have been in here.`,
    answer: $localize`Whoever gets a document from today on never learns what stood there before: not the words, not that there were any. It is said where you share.`,
    place: (document) =>
      document.role === 'owner' ? { commands: ['/documents', document.id, 'sharing'] } : desk()(document),
  },
];

/** The document in which the answers are seen best: the one with the most versions. */
export function tellingOf(documents: readonly DocumentSummary[]): DocumentSummary | null {
  return documents.reduce<DocumentSummary | null>(
    (best, one) => (best && best.version >= one.version ? best : one),
    null,
  );
}
