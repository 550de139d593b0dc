import { Injectable, inject, signal } from '@angular/core';
import type {
  ComparisonResult,
  DocumentSummary,
  Landmark,
  TakeBackInput,
  TakeBackPreview,
  Version,
} from '@oxbow/contract';
import type { Observable } from 'rxjs';
import { firstValueFrom, map } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { KeepingApi } from '../api/keeping-api';
import { Words } from './words';

/** What restoring would do, compared with now; null while that is being worked out. */
export interface Preview {
  readonly comparison: ComparisonResult;
  readonly since: number;
}

/** What is done to a document as a whole from its desk. Each act says how it went; one that failed changed nothing. */
@Injectable()
export class DeskActs {
  private readonly api = inject(Api);
  private readonly keeping = inject(KeepingApi);
  private readonly words = inject(Words);
  private readonly running = signal(false);

  /** Whether an act is under way. */
  readonly busy = this.running.asReadonly();

  /** What restoring moment `seq` would do to the document as it is at `head`. */
  async preview(document: string, seq: number, head: number): Promise<Preview | null> {
    const comparison = await this.run(this.api.compare(document, seq, head));
    if (!comparison) return null;
    const { wordsAdded, wordsRemoved } = comparison.totals;
    const totals = { ...comparison.totals, wordsAdded: wordsRemoved, wordsRemoved: wordsAdded };
    return { comparison: { ...comparison, totals }, since: head - seq };
  }

  /** Puts a moment on top, and offers to take that back. Answers whether it went well. */
  async restore(document: string, seq: number, version: Version | null, comment = ''): Promise<boolean> {
    const outcome = await this.run(this.api.restore(document, seq, version?.number ?? null, comment));
    if (!outcome) return false;
    this.words.say(
      $localize`${version ? $localize`Version ${version.number}` : $localize`That moment`} is back on top, as version ${outcome.version.number}.`,
      {
        label: $localize`Take the restore back`,
        run: () =>
          void this.takeBack(
            document,
            { seqs: [outcome.seq] },
            $localize`The restore is taken back; what was there before is back.`,
            $localize`Restore it again`,
          ),
      },
    );
    return true;
  }

  /** Puts a version out of sight, and offers to put it back. Answers whether it went well. */
  async discard(document: string, { number }: Version): Promise<boolean> {
    const done = await this.run(this.keeping.discard(document, number).pipe(map(() => true)));
    if (done)
      this.words.say($localize`Version ${number} is discarded: out of sight for everybody but owners.`, {
        label: $localize`Put it back`,
        run: () => void this.run(this.keeping.putBack(document, number)),
      });
    return done !== null;
  }

  /** Takes edits back and keeps what came after them; offers to bring them again. Answers whether it went well. */
  async takeBack(
    document: string,
    input: TakeBackInput,
    said = $localize`That is taken back; what came after it stays.`,
    again = $localize`Bring it again`,
  ): Promise<boolean> {
    const outcome = await this.run(this.api.takeBack(document, input));
    if (outcome)
      this.words.say($localize`${said} This is version ${outcome.version.number}.`, {
        label: again,
        run: () =>
          void this.takeBack(
            document,
            { seqs: [outcome.seq] },
            $localize`It is there again.`,
            $localize`Take it back again`,
          ),
      });
    return outcome !== null;
  }

  /** Says what taking one change between two moments back would do to the present document, and offers to do it. */
  async offerTakeBack(document: string, change: NonNullable<TakeBackInput['change']>): Promise<void> {
    const { value, wrong } = await this.previewTakeBack(document, { change });
    if (!value) return this.words.say(wrong);
    const { conflict, changes, gist } = value;
    if (conflict)
      return this.words.say(
        $localize`That cannot be taken back on its own. Before it: “${conflict.before}”. Now: “${conflict.now}”. Without it: “${conflict.after}”.`,
      );
    if (changes === 0)
      return this.words.say($localize`Nothing of that change stands in the document any more.`);
    this.words.say($localize`Taking it back: ${gist}. What came after it stays.`, {
      label: $localize`Take it back`,
      run: () => void this.takeBack(document, { change }),
    });
  }

  /** What taking edits back would do, or why that cannot be told. */
  async previewTakeBack(
    document: string,
    input: TakeBackInput,
  ): Promise<{ value: TakeBackPreview | null; wrong: string }> {
    return this.tried(this.api.previewTakeBack(document, input));
  }

  /** Makes a document of its own from a moment. */
  async copy(
    document: string,
    seq: number,
    title: string,
    collection: string | null,
  ): Promise<{ value: DocumentSummary | null; wrong: string }> {
    return this.tried(this.api.copyMoment(document, seq, title, collection));
  }

  /** Keeps a version of the present moment. */
  async keep(document: string, comment: string, major: boolean): Promise<boolean> {
    const version = await this.run(this.api.keepVersion(document, comment, major));
    if (version) this.words.say($localize`Kept as version ${version.number} (${version.label}).`);
    return version !== null;
  }

  async rename(document: string, title: string): Promise<DocumentSummary | null> {
    return this.run(this.api.changeDocument(document, { title }));
  }

  /** Names a moment, or gives its landmark another name. Answers what was wrong, or nothing when it went well. */
  async name(
    document: string,
    seq: number,
    held: Landmark | null,
    name: string,
    note: string,
  ): Promise<string> {
    const call = held
      ? this.api.renameLandmark(document, held.id, name, note)
      : this.api.nameMoment(document, seq, name, note);
    const { value, wrong } = await this.tried(call);
    if (value)
      this.words.say(
        held ? $localize`Now named “${value.name}”.` : $localize`This moment is named “${value.name}”.`,
      );
    return wrong;
  }

  /** Takes the name off a moment, and offers to put it back. */
  async unname(document: string, landmark: Landmark): Promise<string> {
    const { wrong } = await this.tried(this.api.unnameMoment(document, landmark.id));
    if (!wrong)
      this.words.say($localize`“${landmark.name}” is no name of a moment any more; the moment stays.`, {
        label: $localize`Put the name back`,
        run: () => void this.name(document, landmark.seq, null, landmark.name, landmark.note),
      });
    return wrong;
  }

  /** Writes the comment of a version. Answers what was wrong, or nothing. */
  async comment(document: string, number: number, comment: string): Promise<string> {
    return (await this.tried(this.api.commentVersion(document, number, comment))).wrong;
  }

  private async run<T>(call: Observable<T>): Promise<T | null> {
    const { value, wrong } = await this.tried(call);
    if (wrong) this.words.say(wrong);
    return value;
  }

  private async tried<T>(call: Observable<T>): Promise<{ value: T | null; wrong: string }> {
    this.running.set(true);
    try {
      return { value: await firstValueFrom(call), wrong: '' };
    } catch (error) {
      return { value: null, wrong: saidOf(error) };
    } finally {
      this.running.set(false);
    }
  }
}
