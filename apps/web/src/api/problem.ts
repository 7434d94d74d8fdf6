/**
 * An answer of the server that is no success, or no answer at all (`status` 0). `message` is one clear
 * sentence.
 */
export class ApiProblem extends Error {
  override readonly name = 'ApiProblem';
  constructor(
    readonly status: number,
    message: string,
    /** What it is, as the end of the problem's URI: `sound-deleted`, say. */
    readonly kind = '',
  ) {
    super(message);
  }

  /** Whether the server or its database is away or has no room, so that trying again later makes sense. */
  get away(): boolean {
    return [0, 502, 503, 504, 507].includes(this.status);
  }
}

const NO_ANSWER = 'The server does not answer. Your work stays in this browser and is saved once it is back.';

/** Calls the API and returns the answer; throws an `ApiProblem` for anything but success. */
export async function call(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { ...init, signal: init.signal ?? AbortSignal.timeout(20_000) });
  } catch (error) {
    if (init.signal?.aborted && (init.signal.reason as Error).name !== 'TimeoutError') throw error;
    throw new ApiProblem(0, NO_ANSWER);
  }
  if (response.ok) return response;
  const body = (await response.json().catch(() => null)) as { title?: string; type?: string } | null;
  throw new ApiProblem(
    response.status,
    body?.title ?? `The server answered with an error (${response.status}).`,
    body?.type?.split(':').pop(),
  );
}

const json = (value: unknown): RequestInit => ({
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(value),
});

export async function callJson<T>(
  path: string,
  method = 'GET',
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<T> {
  const init = body === undefined ? {} : json(body);
  const response = await call(path, {
    method,
    ...init,
    headers: { ...(init.headers as Record<string, string>), ...headers },
  });
  return (response.status === 204 ? undefined : await response.json()) as T;
}
