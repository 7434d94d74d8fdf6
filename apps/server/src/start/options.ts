import { resolve } from 'node:path';
import { parseArgs } from 'node:util';

export interface StartOptions {
  readonly port: number;
  readonly data: string;
  readonly demo: boolean;
  readonly web: string;
  /** Most that all recordings together may take, in GB (10⁹ bytes). */
  readonly recordingsGb: number;
}

/** An option that cannot be taken, in one sentence. */
export class OptionError extends Error {
  override readonly name = 'OptionError';
}

/** Reads the options of the start command. Throws an `OptionError`. */
export function readOptions(args: readonly string[], root: string): StartOptions {
  let values: { port?: string; data?: string; 'no-demo'?: boolean; 'recordings-gb'?: string };
  try {
    ({ values } = parseArgs({
      args: [...args],
      options: {
        port: { type: 'string' },
        data: { type: 'string' },
        'no-demo': { type: 'boolean' },
        'recordings-gb': { type: 'string' },
      },
    }));
  } catch (error) {
    throw new OptionError(`${(error as Error).message.split('.')[0]}; see bin/start --help`);
  }
  const port = Number(values.port ?? 4820);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new OptionError(`--port ${values.port}: give a number from 0 to 65535`);
  const recordingsGb = Number(values['recordings-gb'] ?? 20);
  if (!(recordingsGb > 0 && recordingsGb <= 100_000))
    throw new OptionError(`--recordings-gb ${values['recordings-gb']}: give a number above 0`);
  return {
    port,
    data: resolve(values.data ?? `${root}/data`),
    demo: !values['no-demo'],
    web: `${root}/apps/web/dist`,
    recordingsGb,
  };
}
