import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { ActId } from '../acting/acts';
import { ACTS, keysTold } from '../acting/acts';

/** One line of a tool's menu. */
export interface RailItem {
  readonly label: string;
  readonly icon?: string | undefined;
  /** Classes of a swatch that shows it. */
  readonly swatch?: string;
  /** Whether it is the chosen one of several; absent where they are no choice. */
  readonly chosen?: boolean;
  readonly off?: boolean;
  readonly run: () => void;
}

/** One tool of a rail: it does something, or opens a menu. */
export interface RailTool {
  readonly label: string;
  readonly icon: string;
  /** What is told of it, where that is more than its label, such as its keys. */
  readonly told?: string;
  /** Whether it is on; absent for what is neither on nor off. */
  readonly on?: boolean;
  /** Whether something that it opens is open; absent for what opens nothing. */
  readonly open?: boolean;
  readonly off?: boolean;
  readonly run?: () => void;
  /** What its menu holds, asked when it opens. */
  readonly menu?: () => readonly RailItem[];
}

/** The tool that does an act. */
export function toolOf(id: ActId, run: () => void, more: Partial<RailTool> = {}): RailTool {
  const { label, icon } = ACTS[id];
  return { label, icon: icon ?? id, told: toldOf(id), run, ...more };
}

/** The line of a menu that does an act. */
export function itemOf(id: ActId, run: () => void, more: Partial<RailItem> = {}): RailItem {
  return { label: ACTS[id].label, icon: ACTS[id].icon, run, ...more };
}

/** What an act is called, with its keys. */
export function toldOf(id: ActId): string {
  const { label, keys } = ACTS[id];
  return keys ? `${label} (${keysTold(keys)})` : label;
}

/** A rail of tools beside a page, or along it where there is no room: arrow keys go from one to the next. */
@Component({
  selector: 'ox-rail',
  imports: [MatIconModule, MatMenuModule, MatTooltipModule],
  templateUrl: './rail.html',
  styleUrl: './rail.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    role: 'toolbar',
    'aria-orientation': 'vertical',
    tabindex: '-1',
    '[attr.aria-label]': 'name()',
    '(keydown.arrowdown)': 'along($event, 1)',
    '(keydown.arrowright)': 'along($event, 1)',
    '(keydown.arrowup)': 'along($event, -1)',
    '(keydown.arrowleft)': 'along($event, -1)',
  },
})
export class Rail {
  readonly name = input.required<string>();
  /** The tools, in groups. */
  readonly tools = input.required<readonly (readonly RailTool[])[]>();
  /** On which side of it what is told of a tool is shown. */
  readonly side = input<'left' | 'right'>('right');
  /** A menu was closed. */
  readonly closed = output();
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  /** Puts the focus on the first tool with a menu. */
  focus(): void {
    this.element.querySelector<HTMLElement>('[aria-haspopup]')?.focus();
  }

  protected along(event: Event, direction: 1 | -1): void {
    const buttons = [...this.element.querySelectorAll<HTMLElement>(':scope > button:enabled')];
    const at = buttons.indexOf(event.target as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    buttons.at((at + direction) % buttons.length)?.focus();
  }
}
