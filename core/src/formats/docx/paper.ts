import type { Node } from 'prosemirror-model';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Picture } from '../picture.js';
import { endingOf } from '../picture.js';
import { WRITTEN } from './names.js';
import { DocxNotes } from './notes.js';

const RELATIONS = WRITTEN.r;

/** What the body of a file refers to: links, images and lists; and the numbers that must be given once each. */
export class Paper {
  readonly notes = new DocxNotes();
  private readonly targets = new Map<string, { readonly id: string; readonly element: Element }>();
  private readonly held = new Map<string, Picture>();
  private readonly nums: Node[] = [];
  private last = 0;

  /** A number not given before in this file. */
  next(): number {
    return ++this.last;
  }

  /** The id of a link to somewhere outside. */
  link(href: string): string {
    return this.relation('hyperlink', href, true);
  }

  /** The id of an image, stored once however often it is shown. */
  image(picture: Picture): string {
    this.held.set(picture.hash, picture);
    return this.relation('image', `media/${picture.hash}.${endingOf(picture)}`, false);
  }

  /** A number for a list, of its own even beside a list of the same kind. */
  list(list: Node): number {
    return this.nums.push(list);
  }

  get lists(): readonly Node[] {
    return this.nums;
  }

  get pictures(): readonly Picture[] {
    return [...this.held.values()];
  }

  get relations(): readonly Element[] {
    return [...this.targets.values()].map(({ element }) => element);
  }

  /** The id of a part that stands beside the body, such as a header. */
  part(type: string, target: string): string {
    return this.relation(type, target, false);
  }

  private relation(type: string, target: string, outside: boolean): string {
    const key = `${type} ${target}`;
    const held = this.targets.get(key);
    if (held) return held.id;
    const id = `rel${this.targets.size + 1}`;
    const element = el('Relationship', {
      Id: id,
      Type: `${RELATIONS}/${type}`,
      Target: target,
      TargetMode: outside ? 'External' : null,
    });
    this.targets.set(key, { id, element });
    return id;
  }
}
