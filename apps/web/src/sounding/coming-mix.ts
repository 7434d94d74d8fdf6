import { MixReader, type MixPart } from '@abyssal/core';

/** What another worker mixes, part by part as it comes, for one who follows it. */
export class ComingMix {
  readonly reader = new MixReader();
  private left = false;
  private wake: (() => void) | null = null;

  give(part: MixPart): void {
    this.reader.give(part);
    this.wake?.();
  }

  /** Nothing more comes: whoever waits is let go. */
  leave(): void {
    this.left = true;
    this.wake?.();
  }

  /** Done once the next step can be made, or never will. */
  async enough(): Promise<void> {
    while (!this.left && !this.reader.ready)
      await new Promise<void>((resolve) => {
        this.wake = resolve;
      });
  }
}
