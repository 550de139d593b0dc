import type { Attrs } from 'prosemirror-model';
import { isNoteId } from '../kinds/text/index.js';

/**
 * A container that paragraphs alone could not tell, such as a quote within a list, written as a block-level control with
 * a tag that names it (ECMA-376 Part 1, 17.5.2.29 and 17.5.2.42). Other programs show what it holds.
 */
export type Container =
  | { readonly kind: 'quote' }
  | { readonly kind: 'code_block'; readonly language: string }
  /** A footnote without a sign. */
  | { readonly kind: 'footnote'; readonly note: string }
  | {
      readonly kind: 'bullet_list' | 'ordered_list' | 'check_list';
      /** The number its items show their marks by. */
      readonly number: string;
      readonly attrs: Attrs | null;
    }
  | { readonly kind: 'item'; readonly checked: boolean | null };

const MARK = 'oxbow';

/** The tag of a container. */
export function tagOf(container: Container): string {
  switch (container.kind) {
    case 'quote':
      return `${MARK}:quote`;
    case 'code_block':
      return `${MARK}:code_block:${container.language}`;
    case 'footnote':
      return `${MARK}:footnote:${container.note}`;
    case 'item':
      return container.checked === null ? `${MARK}:item` : `${MARK}:item:${Number(container.checked)}`;
    case 'ordered_list':
      return `${MARK}:ordered_list:${container.number}:${String(container.attrs?.['start'] ?? 1)}`;
    default:
      return `${MARK}:${container.kind}:${container.number}`;
  }
}

/** The container a tag names, or null for a control of some other kind. */
export function containerOf(tag: string): Container | null {
  const [mark, kind, first = '', second = ''] = tag.split(':');
  if (mark !== MARK) return null;
  if (kind === 'quote') return { kind };
  if (kind === 'code_block') return { kind, language: tag.slice(`${MARK}:code_block:`.length) };
  if (kind === 'footnote') return isNoteId(first) ? { kind, note: first } : null;
  if (kind === 'item') return { kind, checked: first === '' ? null : first === '1' };
  if (kind === 'bullet_list' || kind === 'check_list') return { kind, number: first, attrs: null };
  if (kind !== 'ordered_list') return null;
  const start = Number(second);
  const known = Number.isInteger(start) && start >= 0 && start <= 1_000_000;
  return { kind, number: first, attrs: known ? { start } : null };
}
