import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { ACTS } from '../acting/acts';

/** What stands at an address at which there is nothing. */
@Component({
  selector: 'ox-unknown',
  imports: [MatIconModule, RouterLink],
  template: `
    <main>
      <header>
        <mat-icon svgIcon="oxbow" class="sign" aria-hidden="true" />
        <h1 i18n>There is no such page</h1>
      </header>
      <p i18n>Nothing stands at this address. Perhaps a letter of it was lost on the way.</p>
      <p class="after">
        <a routerLink="/">{{ acts.shelf.label }}</a>
      </p>
    </main>
  `,
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Unknown {
  protected readonly acts = ACTS;
}
