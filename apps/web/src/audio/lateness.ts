/** What the device has in store when a block is late: more than that, and it plays silence. */
const STORE_MS = 60;

/**
 * Tells from how long blocks take when the sound has broken up: what a block takes longer than it lasts is owed,
 * what it takes less is made up for, and when more is owed than the device has in store, it has run dry.
 */
export class Lateness {
  private owedMs = 0;
  /** How often the sound broke up, and how long it was silent in all. */
  count = 0;
  silentMs = 0;

  /** A block was made that lasts so long, and took so long to make, in ms. */
  block(tookMs: number, lastsMs: number): void {
    this.owedMs = Math.max(0, this.owedMs + tookMs - lastsMs);
    if (this.owedMs <= STORE_MS) return;
    this.count++;
    this.silentMs += this.owedMs;
    this.owedMs = 0;
  }
}
