import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { What } from '../acting/what';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { Holding } from '../session/holding';

/** Says that one holds back, and how much; puts it in. */
@Component({
  selector: 'ox-holding-band',
  imports: [What, MatButtonModule],
  template: `
    <div class="band">
      <p i18n role="status">
        You hold back here: {{ said() }} Others’ writing still arrives. Closing loses nothing.
      </p>
      <ox-what noun="holdBack" />
      @if (live.waiting() > 0) {
        <button i18n matButton="filled" type="button" [disabled]="busy()" (click)="putIn()">
          Publish my draft
        </button>
      }
      <button i18n matButton type="button" [disabled]="busy()" (click)="stop()">
        {live.waiting() > 0, select, true {Publish my draft and stop holding back} other {Stop holding back}}
      </button>
    </div>
  `,
  styleUrl: '../look/band.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HoldingBand {
  readonly document = input.required<string>();

  protected readonly live = inject(LiveDocument);
  private readonly words = inject(Words);
  private readonly holding = inject(Holding);
  protected readonly busy = signal(false);
  protected readonly said = computed(() => {
    const waiting = this.live.waiting();
    if (waiting === 0) return $localize`what you write stays a draft on this device until you publish it.`;
    return $localize`${waiting === 1 ? $localize`1 edit is` : $localize`${waiting} edits are`} a draft on this device, seen by nobody else.`;
  });

  protected async putIn(): Promise<void> {
    this.busy.set(true);
    const done = await this.live.putIn();
    this.busy.set(false);
    this.words.say(
      done
        ? $localize`It is published. You go on holding back.`
        : $localize`It is not published yet; it stays on this device.`,
    );
  }

  protected async stop(): Promise<void> {
    this.holding.choose(this.document(), false);
    await this.putIn();
  }
}
