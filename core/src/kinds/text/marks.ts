import type { AttributeSpec, MarkSpec } from 'prosemirror-model';

/** Schemes a link may have; anything else (script, data, file) is refused. */
const LINK_SCHEMES = /^(?:https?:|mailto:|tel:|#|\/(?!\/))/i;

/** Typefaces a writer can choose from; the web app ships a font for each. */
export const TYPEFACES = ['serif', 'sans', 'mono'] as const;
/** Text sizes relative to the document's own. */
export const SIZES = ['small', 'large', 'huge'] as const;
/** Highlighter inks. */
export const INKS = ['sand', 'reed', 'sky', 'rose'] as const;

/** Whether a link target is one of the allowed kinds: web, mail, telephone, or a place on this site. */
export function isSafeLink(href: unknown): href is string {
  return (
    typeof href === 'string' && href.length <= 2048 && LINK_SCHEMES.test(href) && !/[\s<>"\\]/.test(href)
  );
}

function oneOf(values: readonly string[], fallback: string): AttributeSpec {
  return {
    default: fallback,
    validate(value: unknown) {
      if (typeof value !== 'string' || !values.includes(value)) {
        throw new RangeError(`expected one of ${values.join(', ')}`);
      }
    },
  };
}

function simple(tag: string, ...others: string[]): MarkSpec {
  return { parseDOM: [tag, ...others].map((name) => ({ tag: name })), toDOM: () => [tag, 0] };
}

function classed(
  tag: string,
  prefix: string,
  attr: string,
  values: readonly string[],
  fallback: string,
): MarkSpec {
  return {
    attrs: { [attr]: oneOf(values, fallback) },
    parseDOM: values.map((value) => ({ tag: `${tag}.${prefix}-${value}`, attrs: { [attr]: value } })),
    toDOM: (mark) => [tag, { class: `${prefix}-${String(mark.attrs[attr])}` }, 0],
  };
}

const highlight = classed('mark', 'ink', 'ink', INKS, 'sand');

/** Marks of the text kind, in rank order. */
export const marks = {
  link: {
    attrs: {
      href: {
        validate(value: unknown) {
          if (!isSafeLink(value)) throw new RangeError('expected a web, mail or telephone address');
        },
      },
      title: { default: null, validate: 'string|null' },
    },
    inclusive: false,
    says: true,
    parseDOM: [
      {
        tag: 'a[href]',
        getAttrs: (dom: { getAttribute(name: string): string | null }) => {
          const href = dom.getAttribute('href');
          return isSafeLink(href) ? { href, title: dom.getAttribute('title') } : false;
        },
      },
    ],
    toDOM: (mark) => {
      const attrs: Record<string, string> = { href: String(mark.attrs['href']), rel: 'noopener noreferrer' };
      if (mark.attrs['title']) attrs['title'] = String(mark.attrs['title']);
      return ['a', attrs, 0];
    },
  },
  bold: simple('strong', 'b'),
  italic: simple('em', 'i'),
  underline: simple('u'),
  strike: simple('s', 'del', 'strike'),
  subscript: { ...simple('sub'), excludes: 'subscript superscript' },
  superscript: { ...simple('sup'), excludes: 'subscript superscript' },
  highlight: { ...highlight, parseDOM: [...(highlight.parseDOM ?? []), { tag: 'mark' }] },
  code: { ...simple('code'), code: true },
  typeface: classed('span', 'face', 'face', TYPEFACES, 'serif'),
  size: classed('span', 'size', 'size', SIZES, 'large'),
} satisfies Record<string, MarkSpec>;
