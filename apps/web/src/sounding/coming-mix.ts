import { MixReader, type MixPart, type ToneSignals } from '@abyssal/core';

/** What another worker mixes, part by part as it comes, and then the whole loop, for one who follows it. */
export class ComingMix {
  readonly reader = new MixReader();
  private left = false;
  private whole: ToneSignals | null = null;
  private wake: (() => void) | null = null;

  give(part: MixPart): void {
    this.reader.give(part);
    this.wake?.();
  }

  giveLoop(loop: ToneSignals): void {
    this.whole = loop;
    this.wake?.();
  }

  /** Nothing more comes: whoever waits is let go. */
  leave(): void {
    this.left = true;
    this.wake?.();
  }

  /** Done once the next step can be made, or never will. */
  async enough(): Promise<void> {
    while (!this.left && !this.reader.ready) await this.news();
  }

  /** The whole loop, once it is there; null where it was left off. */
  async loop(): Promise<ToneSignals | null> {
    while (!this.left && !this.whole) await this.news();
    return this.whole;
  }

  private news(): Promise<void> {
    return new Promise((resolve) => {
      this.wake = resolve;
    });
  }
}
