import type { CalculationTask } from './calculation-messages';
import { Calculator } from './calculator';

const calculator = new Calculator();
let timer: ReturnType<typeof setTimeout> | null = null;

/** Calculates an open book away from the page. What comes while it works is taken in before it begins again. */
addEventListener('message', ({ data }: MessageEvent<CalculationTask>) => {
  calculator.take(data);
  timer ??= setTimeout(() => {
    timer = null;
    postMessage(calculator.calculated());
  });
});
