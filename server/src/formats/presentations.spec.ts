import { readPptx } from '@oxbow/core/formats/decks';
import { slidesOf } from '@oxbow/core/kinds/deck';
import { pandoc } from '../testing/pandoc.js';

/** A talk as pandoc's Markdown has it: a heading begins a slide, a fenced block of the class `notes` is what is said. */
const TALK = `---
title: The boat day
---

# What we take

- oars, **two pairs**
    - and one *spare*
- bailer

::: notes
Show the oars.
:::

# In which order

1. Life jackets
2. Landing stage

# What it costs

About ~~forty~~ sixty pounds; see [the budget](https://withy.example/budget).
`;

describe('presentations of another program (pandoc of Debian)', () => {
  it('are read with their slides, lists, looks, links and notes', () => {
    const bytes = pandoc(['-f', 'markdown', '-t', 'pptx', '-o', '-'], TALK);
    const { doc, title } = readPptx(new Uint8Array(bytes));
    expect(title).toBe('The boat day');
    const slides = slidesOf(doc);
    expect(slides.map((slide) => slide.title)).toEqual([
      'The boat day',
      'What we take',
      'In which order',
      'What it costs',
    ]);
    const of = (index: number): string =>
      slides[index]?.node.children.slice(1, -1).map(String).join(' ') ?? '';
    expect(of(1)).toBe(
      'box(bullet_list(list_item(paragraph("oars, ", bold("two pairs")), bullet_list(list_item(paragraph("and one ", italic("spare"))))), list_item(paragraph("bailer"))))',
    );
    expect(slides[1]?.node.lastChild?.textContent).toBe('Show the oars.');
    expect(of(2)).toBe(
      'box(ordered_list(list_item(paragraph("Life jackets")), list_item(paragraph("Landing stage"))))',
    );
    expect(of(3)).toContain('strike("forty")');
    expect(of(3)).toContain('link("the budget")');
    const box = slides[1]?.node.child(1).attrs;
    expect(box?.['width']).toBeGreaterThan(8000);
    expect(box?.['y']).toBeGreaterThan(1000);
  });
});
