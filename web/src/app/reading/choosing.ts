import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import type { Ends } from './comparing';
import { Comparing } from './comparing';
import type { Chosen, EndsData } from './ends';
import { EndsDialog } from './ends';

/** Chooses what to compare: through the dialog, or by dropping a file on the page. */
@Injectable()
export class Choosing {
  private readonly dialog = inject(MatDialog);
  private readonly comparing = inject(Comparing);
  private readonly api = inject(Api);
  private readonly over = signal(false);

  /** Whether a file is being held over the page. */
  readonly dropping = this.over.asReadonly();

  /** Asks for two ends. Null when nothing was chosen, or a file, which is compared at once. */
  async ask(data: EndsData): Promise<Ends | null> {
    const dialog = this.dialog.open<EndsDialog, EndsData, Chosen>(EndsDialog, {
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
