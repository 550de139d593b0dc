import type { Node } from 'prosemirror-model';
import type { NodeViewConstructor } from 'prosemirror-view';

/** Draws images of a document from where the server keeps them. */
export function imageView(id: string): NodeViewConstructor {
  return (node: Node) => {
    const dom = document.createElement('img');
    dom.src = `/api/documents/${id}/images/${String(node.attrs['hash'])}`;
    dom.alt = String(node.attrs['alt']);
    dom.dataset['image'] = String(node.attrs['hash']);
    if (node.attrs['width'] !== null) dom.width = Number(node.attrs['width']);
    return { dom };
  };
}
