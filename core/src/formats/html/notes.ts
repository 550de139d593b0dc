import type { Element, ElementContent, Root } from 'hast';

/**
 * Shows the numbers of footnotes where a page has nothing that counts them: at their signs, and before each footnote in an element
 * that readers of our own pages pass over. `numbers` are by name.
 */
export function withNumbers<T extends Root | Element>(tree: T, numbers: ReadonlyMap<string, number>): T {
  for (const child of tree.children as ElementContent[]) {
    if (child.type !== 'element') continue;
    const { dataNote: sign, dataFootnote: note } = child.properties;
    if (typeof sign === 'string') child.children = [{ type: 'text', value: told(numbers, sign) }];
    else withNumbers(child, numbers);
    if (typeof note === 'string')
      child.children.unshift({
        type: 'element',
        tagName: 'sup',
        properties: { dataNumber: 'true' },
        children: [{ type: 'text', value: `${told(numbers, note)} ` }],
      });
  }
  return tree;
}

function told(numbers: ReadonlyMap<string, number>, name: string): string {
  return String(numbers.get(name) ?? '*');
}
