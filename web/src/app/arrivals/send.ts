import { Injectable, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { Letter } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import type { Sending, SendingData } from './sending';

/** Asks for what a message needs and sends it. */
@Injectable({ providedIn: 'root' })
export class Send {
  private readonly dialog = inject(MatDialog);

  /** Answers what to say of it, or null when it was left. */
  async ask(data: SendingData): Promise<string | null> {
    const there = await import('./sending');
    const dialog = this.dialog.open<Sending, SendingData, Letter>(there.Sending, {
      data,
      width: '560px',
      maxWidth: '96vw',
    });
    const sent = await firstValueFrom(dialog.afterClosed());
    if (!sent) return null;
    const to = sent.to.map(({ name, address }) => name || address).join(', ');
    return $localize`Sent ${sent.files.map(({ name }) => name).join(', ')} to ${to}.`;
  }
}
