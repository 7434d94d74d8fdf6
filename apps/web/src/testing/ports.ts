/**
 * Closes every message channel that is opened from now on, once the tests of a file are through: an open one would keep the
 * tests from ending.
 */
export function closePorts(): void {
  const opened: MessagePort[] = [];
  const Channel = globalThis.MessageChannel;
  globalThis.MessageChannel = class extends Channel {
    constructor() {
      super();
      opened.push(this.port1);
    }
  };
  afterAll(() => {
    globalThis.MessageChannel = Channel;
    for (const port of opened) port.close();
  });
}
