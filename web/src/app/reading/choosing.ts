import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { Filing } from '../filing/filing';
import type { Ends } from './comparing';
import { Comparing } from './comparing';
import type { Chosen, EndsData, EndsDialog } from './ends';

/** Chooses what to compare: through the dialog, or by dropping a file on the page. */
@Injectable()
export class Choosing {
  private readonly dialog = inject(MatDialog);
  private readonly comparing = inject(Comparing);
  private readonly api = inject(Api);
  private readonly filing = inject(Filing);
  private readonly over = signal(false);

  /** Whether a file is being held over the page. */
  readonly dropping = this.over.asReadonly();

  /** Asks for two ends. Null when nothing was chosen, or a file, which is compared at once. */
  async ask(data: EndsData): Promise<Ends | null> {
    const there = await import('./ends');
    const dialog = this.dialog.open<EndsDialog, EndsData, Chosen>(there.EndsDialog, {
      data,
      width: '920px',
      autoFocus: 'dialog',
      maxWidth: '96vw',
    });
    const chosen = await firstValueFrom(dialog.afterClosed());
    if (!chosen) return null;
    if ('ends' in chosen) return chosen.ends;
    await this.compareFile(chosen.file, data.document, data.head);
    return null;
  }

  private async compareFile(file: File, document: string, head: number): Promise<void> {
    await this.comparing.openFile(() => firstValueFrom(this.api.moment(document, head)), file);
  }

  /** Compares the document as it is now with a file that came in a message. */
  async arrived(
    document: string,
    head: number,
    { letter, index }: { letter: string; index: number },
  ): Promise<void> {
    const found = (await firstValueFrom(this.api.arrivals())).find(({ id }) => id === letter);
    const name = found?.files[index]?.name;
    if (!found || name === undefined) throw new Error('That message is not there any more.');
    const arrived = await this.filing.arrived(found, index, name);
    const now = () => firstValueFrom(this.api.moment(document, head));
    await this.comparing.openFile(now, arrived.file, arrived);
  }

  /** Files the file in view on top of its document. Answers the moments before and after, or null when it was left. */
  async file(title: string): Promise<{ earlier: number; later: number } | null> {
    const look = this.comparing.look();
    if (!look?.source) return null;
    const target = { id: look.later.document, title };
    const outcome = look.arrived
      ? await this.filing.arrivedOnTop(look.arrived, target)
      : await this.filing.onTop(look.source, target);
    return outcome && { earlier: outcome.seq - 1, later: outcome.seq };
  }

  dragged(event: DragEvent, over: boolean): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.over.set(over);
  }

  /** A file dropped on the page is compared with it; what the editor took, such as an image, is left to it. */
  dropped(event: DragEvent, document: string, head: number): void {
    this.over.set(false);
    const file = event.dataTransfer?.files[0];
    if (!file || event.defaultPrevented) return;
    event.preventDefault();
    void this.compareFile(file, document, head);
  }
}
