import type { ComparedChange } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';

/** Whether both sides of a change can stand in what is assembled: where there are two. */
export function offersBoth({ kind }: Pick<ComparedChange, 'kind'>): boolean {
  return kind === 'replaced' || kind === 'typography';
}

/** A place beside the text where one decides about a change. */
export interface Switch {
  readonly change: ComparedChange;
  readonly top: number;
}

/** Pixels that a switch takes. */
const HEIGHT = 26;

const SIDES: readonly [Decision, string, string][] = [
  ['earlier', 'E', $localize`Take the earlier side`],
  ['both', 'B', $localize`Keep both`],
  ['later', 'L', $localize`Take the later side`],
];

/** The switches of a drawn row, each in line with its change, or right below the one before. */
export function switchesOf(row: HTMLElement, changes: readonly ComparedChange[]): Switch[] {
  const top = row.getBoundingClientRect().top;
  const found = changes.flatMap((change): Switch[] => {
    const mark = row.querySelector(`[data-change="${change.id}"]`);
    return mark ? [{ change, top: mark.getBoundingClientRect().top - top }] : [];
  });
  let free = 0;
  return found
    .sort((a, b) => a.top - b.top)
    .map((one) => {
      const at = Math.max(one.top, free);
      free = at + HEIGHT;
      return { ...one, top: at };
    });
}

/** Draws a switch of two or three positions, with what was decided pressed. */
export function drawSwitch(
  { change, top }: Switch,
  decisions: ReadonlyMap<number, Decision>,
  decide: (change: number, take: Decision) => void,
): HTMLElement {
  const group = document.createElement('div');
  group.className = 'switch';
  group.style.top = `${top}px`;
  group.setAttribute('role', 'group');
  group.setAttribute('aria-label', $localize`Decide: ${change.earlier || change.later}`.slice(0, 80));
  for (const [take, letter, says] of SIDES) {
    if (take === 'both' && !offersBoth(change)) continue;
    const button = document.createElement('button');
    button.type = 'button';
    button.textContent = letter;
    button.title = says;
    button.setAttribute('aria-label', says);
    button.setAttribute('aria-pressed', String(decisions.get(change.id) === take));
    button.addEventListener('click', () => decide(change.id, take));
    group.append(button);
  }
  return group;
}

/** Shows on the marks of a row which side was taken. */
export function showTaken(row: HTMLElement, decisions: ReadonlyMap<number, Decision>): void {
  for (const mark of row.querySelectorAll<HTMLElement>('[data-change]')) {
    const take = decisions.get(Number(mark.dataset['change']));
    if (take) mark.dataset['take'] = take;
    else delete mark.dataset['take'];
  }
}
