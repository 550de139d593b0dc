import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { ComparedChange, Person } from '@oxbow/contract';
import { documentOf } from '@oxbow/core/kinds';
import type { Section } from '@oxbow/core/compare';
import { isRename, sectionOf } from '@oxbow/core/compare';
import { colourOf } from '../look/colours';
import { fullTime, shortTime } from '../look/time';
import type { Look } from './look';
import { deedOf, peopleOf, renameOf } from './look';

/** Signs of the text round a change that are shown, and of the change itself. */
const CONTEXT = 70;
const LONGEST = 600;

/** A change with a line of context. */
interface Entry {
  readonly change: ComparedChange;
  readonly deed: string;
  readonly before: string;
  readonly earlier: string;
  readonly later: string;
  readonly after: string;
  readonly who: readonly Person[];
  readonly time: string;
  readonly title: string;
}

const KINDS: Record<ComparedChange['kind'], string> = {
  added: $localize`Added`,
  removed: $localize`Removed`,
  replaced: $localize`Replaced`,
  moved: $localize`Moved`,
  copied: $localize`Copied`,
  split: $localize`Paragraphs split`,
  joined: $localize`Paragraphs joined`,
  typography: $localize`Typography`,
  form: $localize`Form only`,
};

interface Group {
  readonly title: string;
  readonly entries: readonly Entry[];
}

/** Only the changes, each with a line of context, in the order of the page, by person or by kind. */
@Component({
  selector: 'ox-digest',
  imports: [MatButtonToggleModule],
  templateUrl: './digest.html',
  styleUrl: './digest.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Digest {
  readonly look = input.required<Look>();
  readonly shown = input.required<readonly ComparedChange[]>();
  readonly sections = input.required<readonly Section[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly at = input.required<number | null>();
  readonly changed = output<number>();
  /** Asks to see a change in the text. */
  readonly opened = output<number>();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly by = signal<'place' | 'person' | 'kind'>('place');
  private readonly later = computed(() => documentOf(this.look().later.content));
  protected readonly groups = computed<Group[]>(() => {
    const groups = new Map<string, Entry[]>();
    for (const change of this.shown()) {
      const entry = this.entry(change);
      const names = this.groupsOf(change);
      for (const name of names) groups.set(name, [...(groups.get(name) ?? []), entry]);
    }
    return [...groups].map(([title, entries]) => ({ title, entries }));
  });
  protected readonly colourOf = colourOf;

  constructor() {
    effect(() => {
      const at = this.at();
      this.groups();
      requestAnimationFrame(() => {
        const entries = [...this.element.nativeElement.querySelectorAll<HTMLElement>('[data-entry]')];
        const entry = entries.find(({ dataset }) => dataset['entry'] === String(at));
        if (entry && entry !== entries[0]) entry.scrollIntoView({ block: 'nearest' });
        else this.element.nativeElement.scrollIntoView();
      });
    });
  }

  private groupsOf(change: ComparedChange): string[] {
    switch (this.by()) {
      case 'place':
        return [this.sectionName(change)];
      case 'person':
        return this.names(change);
      case 'kind':
        return [
          change.group !== null && isRename(change.group)
            ? $localize`Renamed: ${renameOf(change.group)}`
            : KINDS[change.kind],
        ];
    }
  }

  private sectionName(change: ComparedChange): string {
    return this.sections()[sectionOf(this.sections(), change)]?.title || $localize`Before the first heading`;
  }

  private names(change: ComparedChange): string[] {
    const names = peopleOf(change).map((id) => this.people().get(id)?.name ?? $localize`Somebody`);
    return names.length > 0 ? names : [$localize`From outside`];
  }

  private entry(change: ComparedChange): Entry {
    const last = change.credits.at(-1);
    const file = last?.file ? $localize`, with the file ${last.file}` : '';
    const who = peopleOf(change).flatMap((id) => this.people().get(id) ?? []);
    return {
      change,
      deed: deedOf(change),
      ...this.line(change),
      who,
      time: last ? shortTime(last.at) : '',
      title: last ? `${who.map(({ name }) => name).join(' and ')}, ${fullTime(last.at)}${file}` : '',
    };
  }

  /** What a line says of a change, with what stands round it. */
  private line(change: ComparedChange): Pick<Entry, 'before' | 'earlier' | 'later' | 'after'> {
    if (change.kind === 'split' || change.kind === 'joined')
      return { before: '', earlier: '', later: '¶', after: ` ${clipped(change.later || change.earlier)}` };
    const stays = change.kind === 'form' || change.kind === 'moved' || change.kind === 'copied';
    const { before, after } = this.context(change);
    const later = change.kind === 'form' && change.block ? firstLines(change.later) : change.later;
    return { before, earlier: stays ? '' : clipped(change.earlier), later: clipped(later), after };
  }

  private context(change: ComparedChange): { before: string; after: string } {
    if (change.block) return { before: '', after: '' };
    const doc = this.later();
    const { from, to } = change.place.later;
    const $from = doc.resolve(from);
    const [start, end] = [$from.start(), $from.end()];
    const low = Math.max(start, from - CONTEXT);
    const high = Math.min(end, Math.max(from, to) + CONTEXT);
    const before = doc.textBetween(low, from, ' ', ' ');
    const after = doc.textBetween(Math.min(to, end), high, ' ', ' ');
    return {
      before: low > start ? `…${before.replace(/^\S*\s/, '')}` : before,
      after: high < end ? `${after.replace(/\s\S*$/, '')}…` : after,
    };
  }
}

/** Enough of a block to know it by, where only its form is told. */
function firstLines(text: string): string {
  const lines = text.split('\n');
  return lines.length > 2 ? `${lines.slice(0, 2).join('\n')} …` : text;
}

function clipped(text: string): string {
  return text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text;
}
