import { DOCUMENT, Injectable, inject } from '@angular/core';

/** Loads the app anew, so that nothing it holds in memory stays. */
@Injectable({ providedIn: 'root' })
export class Anew {
  private readonly document = inject(DOCUMENT);

  load(): void {
    this.document.location.reload();
  }
}
