import type { ElementContent } from 'hast';
import type { FootnoteDefinition, FootnoteReference, Root } from 'mdast';
import type { Handler } from 'mdast-util-to-hast';
import { isNoteId } from '../../kinds/text/index.js';

/** Footnotes of a Markdown file (GitHub Flavored Markdown), as signs and blocks that documents know. */
export class MarkdownNotes {
  private readonly names = new Map<string, string>();
  private readonly definitions: FootnoteDefinition[] = [];

  constructor(private readonly tree: Root) {
    for (const child of tree.children) if (child.type === 'footnoteDefinition') this.definitions.push(child);
  }

  /** The file with its footnotes at the end. */
  get atEnd(): Root {
    const others = this.tree.children.filter(({ type }) => type !== 'footnoteDefinition');
    return { ...this.tree, children: [...others, ...this.definitions] };
  }

  /** How signs and footnotes are written as HTML. */
  get handlers(): Record<string, Handler> {
    return {
      footnoteReference: (_state, node: FootnoteReference): ElementContent => ({
        type: 'element',
        tagName: 'sup',
        properties: { dataNote: this.name(node.identifier) },
        children: [],
      }),
      footnoteDefinition: (state, node: FootnoteDefinition): ElementContent => ({
        type: 'element',
        tagName: 'p',
        properties: { dataFootnote: this.name(node.identifier) },
        children: state.all(node).flatMap((block, i): ElementContent[] => {
          if (block.type !== 'element') return [];
          const line = block.tagName === 'p' ? block.children : [block];
          return i === 0 ? line : [{ type: 'element', tagName: 'br', properties: {}, children: [] }, ...line];
        }),
      }),
    };
  }

  /** The name of a footnote: the one it has, or one that documents can use. */
  private name(identifier: string): string {
    const held = this.names.get(identifier);
    if (held !== undefined) return held;
    const name = isNoteId(identifier) ? identifier : `n${this.names.size + 1}`;
    this.names.set(identifier, name);
    return name;
  }
}
