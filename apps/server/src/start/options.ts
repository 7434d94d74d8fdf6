import { resolve } from 'node:path';
import { parseArgs } from 'node:util';

export interface StartOptions {
  readonly port: number;
  readonly data: string;
  readonly demo: boolean;
  readonly web: string;
}

/** An option that cannot be taken, in one sentence. */
export class OptionError extends Error {
  override readonly name = 'OptionError';
}

/** Reads the options of the start command. Throws an `OptionError`. */
export function readOptions(args: readonly string[], root: string): StartOptions {
  let values: { port?: string; data?: string; 'no-demo'?: boolean };
  try {
    ({ values } = parseArgs({
      args: [...args],
      options: { port: { type: 'string' }, data: { type: 'string' }, 'no-demo': { type: 'boolean' } },
    }));
  } catch (error) {
    throw new OptionError(`${(error as Error).message.split('.')[0]}; see bin/start --help`);
  }
  const port = Number(values.port ?? 4820);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new OptionError(`--port ${values.port}: give a number from 0 to 65535`);
  return {
    port,
    data: resolve(values.data ?? `${root}/data`),
    demo: !values['no-demo'],
    web: `${root}/apps/web/dist`,
  };
}
