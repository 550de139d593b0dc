import type { CalculationTask } from '../calculation-messages';
import { Calculator } from '../calculator';

/** Calculates in this thread, a moment later, what the worker does in its own. */
class Here extends EventTarget {
  private readonly calculator = new Calculator(() => 46_000);

  postMessage(task: CalculationTask): void {
    this.calculator.take(task);
    setTimeout(() => this.dispatchEvent(new MessageEvent('message', { data: this.calculator.calculated() })));
  }

  terminate(): void {
    this.postMessage = () => undefined;
  }
}

/** Has formulas calculated in this thread until the test ends. */
export function calculatingHere(): void {
  spyOn(globalThis, 'Worker').and.callFake(function () {
    return new Here() as unknown as Worker;
  } as never);
}
