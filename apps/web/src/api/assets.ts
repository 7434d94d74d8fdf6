import { call } from './problem';

/** Sends a WAV to be kept; the server answers once it has been decoded to its end. */
export async function sendAsset(bytes: ArrayBuffer): Promise<void> {
  await call('/assets', {
    method: 'POST',
    headers: { 'Content-Type': 'audio/wav' },
    body: bytes,
    signal: AbortSignal.timeout(120_000),
  });
}

export async function fetchAsset(hash: string): Promise<ArrayBuffer> {
  return (await call(`/assets/${hash}`, { signal: AbortSignal.timeout(120_000) })).arrayBuffer();
}

/** Whether server and database answer. */
export async function isHealthy(): Promise<boolean> {
  return call('/health', { signal: AbortSignal.timeout(6000) }).then(
    () => true,
    () => false,
  );
}
