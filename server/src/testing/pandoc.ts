import { execFileSync } from 'node:child_process';

/** A document as `pandoc` (2.17, of Debian) understands a file: its JSON syntax tree, brought to what two ways of writing the same share. */
export type Shape = readonly unknown[];

interface Element {
  readonly t: string;
  readonly c?: unknown;
}

/** What a node of that tree holds: by its kind a list of nodes, or a few parts of other shapes. */
type Content = readonly never[] & readonly [never, never, never, never, never];

/** Reads a file with pandoc. `from` is one of its format names; `options` are further ones of its own. */
export function pandocReads(bytes: Uint8Array | string, from: string, ...options: readonly string[]): Shape {
  const json = pandoc(['-f', from, '-t', 'json', ...options], bytes).toString('utf8');
  return blocks((JSON.parse(json) as { blocks: Element[] }).blocks);
}

/** A tracked change in a file as pandoc lists it. */
export interface ListedChange {
  readonly kind: 'insertion' | 'deletion';
  readonly author: string;
  readonly at: string;
  readonly text: string;
}

/** The tracked changes of a .docx, each stretch of text by itself; marks at the ends of paragraphs have none. */
export function trackedBy(bytes: Uint8Array): ListedChange[] {
  const out: ListedChange[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(visit);
    else if (value !== null && typeof value === 'object') {
      const { t, c } = value as Element;
      if (t !== 'Span') return Object.values(value).forEach(visit);
      const [[, classes, pairs], content] = c as [[string, string[], [string, string][]], Element[]];
      const kind = (['insertion', 'deletion'] as const).find((name) => classes.includes(name));
      const attributes = new Map(pairs);
      if (kind)
        out.push({
          kind,
          author: attributes.get('author') ?? '',
          at: attributes.get('date') ?? '',
          text: inline(content).replace(/\{[^}]*\}/g, ''),
        });
      visit(content);
    }
  };
  visit(JSON.parse(pandoc(['-f', 'docx', '-t', 'json', '--track-changes=all'], bytes).toString('utf8')));
  return out;
}

/** Runs pandoc over a file and answers what it writes. */
export function pandoc(args: readonly string[], input: Uint8Array | string): Buffer {
  return execFileSync('pandoc', args, { input, maxBuffer: 256 * 1024 * 1024 });
}

/** Blocks without what files of some kinds cannot tell: empty paragraphs, lines across the page, tight or loose lists. */
function blocks(nodes: readonly Element[]): Shape {
  return joined(nodes.flatMap((node) => block(node)));
}

function block(node: Element): Shape {
  const c = node.c as Content;
  switch (node.t) {
    case 'Para':
    case 'Plain': {
      const text = inline(node.c as Element[]);
      return text === '' ? [] : [['p', text]];
    }
    case 'Header':
      return inline(c[2]) === '' ? [] : [['h', c[0], inline(c[2])]];
    case 'CodeBlock':
      return [['code', c[1]]];
    case 'BlockQuote':
      return filled('quote', blocks(c));
    case 'BulletList':
      return filled('ul', items(c));
    case 'OrderedList':
      return filled('ol', items(c[1]), (c[0] as unknown[])[0]);
    case 'Div':
      return blocks(c[1]);
    case 'Table':
      return table(c);
    case 'LineBlock':
      return (node.c as Element[][]).map((line) => ['p', inline(line)]);
    default:
      return [];
  }
}

/**
 * What pandoc's reader of .odt can tell: it knows neither quotes nor blocks of code, not even those of its own files, so
 * what they hold counts as lines of text.
 */
export function asOdt(shapes: Shape): Shape {
  return (shapes as readonly (readonly unknown[])[]).flatMap((shape) => {
    if (shape[0] === 'quote') return asOdt(shape[1] as Shape);
    if (shape[0] !== 'code' && shape[0] !== 'p') return [shape];
    return String(shape[1])
      .split('\n')
      .map((line) => ['p', line]);
  });
}

/** Neighbouring quotes as one, and blocks of code too: a file that has no containers cannot tell them. */
function joined(shapes: Shape): Shape {
  const out: unknown[][] = [];
  for (const shape of shapes as readonly (readonly unknown[])[]) {
    const last = out.at(-1);
    if (shape[0] === 'quote' && last?.[0] === 'quote')
      last[1] = [...(last[1] as Shape), ...(shape[1] as Shape)];
    else if (shape[0] === 'code' && last?.[0] === 'code') last[1] = `${String(last[1])}\n${String(shape[1])}`;
    else out.push([...shape]);
  }
  return out;
}

function filled(name: string, content: Shape, ...more: unknown[]): Shape {
  return content.length > 0 ? [[name, ...more, content]] : [];
}

/** Items that hold something: an item whose paragraph was removed is left as an empty one, or with its check box alone. */
function items(nodes: readonly Element[][]): Shape {
  return nodes
    .map(blocks)
    .filter((item) => item.length > 0 && !/^\[\["p","[☐☒]"\]\]$/.test(JSON.stringify(item)));
}

function table(c: readonly unknown[]): Shape {
  const head = (c[3] as [unknown, unknown[]])[1];
  const bodies = c[4] as [unknown, unknown, unknown[], unknown[]][];
  const rows = [...head, ...bodies.flatMap(([, , heads, body]) => [...heads, ...body])] as [
    unknown,
    unknown[],
  ][];
  const shown = rows
    .map(([, cells]) => cells.map((cell) => blocks((cell as Element[][])[4] ?? [])))
    .filter((row) => row.some((cell) => cell.length > 0));
  return filled('table', shown);
}

/** Inline content as text, with a sign round each word or part of one that has marks; white space shows none. */
function inline(nodes: readonly Element[]): string {
  const out: { text: string; marks: string }[] = [];
  const put = (text: string, marks: ReadonlySet<string>): void => {
    const key = [...marks].sort().join(' ');
    const last = out.at(-1);
    if (last?.marks === key) last.text += text;
    else out.push({ text, marks: key });
  };
  const visit = (node: Element, marks: ReadonlySet<string>): void => {
    const c = node.c as Content;
    const all = (content: readonly Element[], ...more: string[]): void =>
      content.forEach((child) => visit(child, new Set([...marks, ...more])));
    switch (node.t) {
      case 'Str':
        return put(String(node.c), marks);
      case 'Space':
      case 'SoftBreak':
        return put(' ', marks);
      case 'LineBreak':
        return put('\n', marks);
      case 'Code':
        return put(c[1], new Set([...marks, 'Code']));
      case 'Link':
        return all(c[1], `Link ${String((c[2] as string[])[0])}`);
      case 'Image':
        return put(`[${inline(c[1])}]`, marks);
      case 'Span': {
        const [, classes, attributes] = c[0] as [string, string[], [string, string][]];
        const told = classes.filter((name) => /insertion|deletion/.test(name));
        const by = attributes.map(([, value]) => value).join(' ');
        return all(c[1], ...told.map((name) => `${name} ${by}`));
      }
      case 'Quoted':
        return all(c[1]);
      case 'Note':
      case 'RawInline':
        return;
      default:
        return Array.isArray(node.c) ? all(c, node.t) : undefined;
    }
  };
  nodes.forEach((node) => visit(node, new Set()));
  return out
    .map(({ text, marks }) => (marks ? text.replace(/\S+/g, `{${marks}}$&{}`) : text))
    .join('')
    .trim();
}
