/** Lets messages in between two steps of work, so that a job that is out of date ends early. */
export class Breath {
  private readonly waiting: (() => void)[] = [];
  private readonly channel = new MessageChannel();

  constructor() {
    this.channel.port1.onmessage = () => {
      this.waiting.shift()?.();
    };
  }

  take(): Promise<void> {
    return new Promise((resolve) => {
      this.waiting.push(resolve);
      this.channel.port2.postMessage(null);
    });
  }
}
