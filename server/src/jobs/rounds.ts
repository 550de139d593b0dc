/** Something done again and again: each round begins a while after the one before has ended, so that none overlaps another. */
export class Rounds {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();

  /** `report` hears of a round that failed; the next one comes all the same. */
  constructor(
    private readonly every: number,
    private readonly round: () => Promise<void>,
    private readonly report: (error: unknown) => void,
  ) {}

  start(): void {
    this.timer = setTimeout(() => {
      this.running = this.round()
        .catch(this.report)
        .then(() => {
          if (this.timer) this.start();
        });
    }, this.every);
  }

  /** Ends; resolves when a round under way is done. */
  async stop(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    await this.running;
  }
}
