import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input } from '@angular/core';
import type { ApexOptions } from 'apexcharts';

/** A chart drawn by ApexCharts, fetched when first needed; drawn anew when its options change. */
@Component({
  selector: 'ox-chart',
  template: '',
  styles: ':host { display: block; min-height: 220px }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Chart {
  readonly options = input.required<ApexOptions>();

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect((onCleanup) => {
      const options = this.options();
      let wanted = true;
      let end = (): void => undefined;
      void import('apexcharts').then(async ({ default: ApexCharts }) => {
        if (!wanted) return;
        const chart = new ApexCharts(element, options);
        end = () => chart.destroy();
        await chart.render();
      });
      onCleanup(() => {
        wanted = false;
        end();
      });
    });
  }
}
