import type { Ground, SoundDocument } from '@abyssal/core';
import { ApiProblem } from '../../api/problem';
import { readSound } from '../../api/sounds';
import { startBacking, type Render } from '../../sounding/bounce';
import type { BouncedFile } from '../../sounding/render-types';
import { takeWav } from '../../state/recordings';

/** A sound of the library; one that has gone is told as that. */
async function soundOf(id: string): Promise<SoundDocument> {
  try {
    return (await readSound(id)).document;
  } catch (error) {
    if (error instanceof ApiProblem && error.status === 404)
      throw new Error('That sound is no longer in the library. What was rendered from it stays.', {
        cause: error,
      });
    throw error;
  }
}

/** A sound on its way to a backing part. */
export interface RenderedSound {
  readonly asset: Promise<string>;
  cancel(): void;
}

/**
 * Renders a sound of the library for the open one and keeps the recording; gives its hash. The promise is
 * rejected with an `AbortError` when it is cancelled.
 */
export function renderSound(
  id: string,
  under: Pick<Ground, 'tempoBpm' | 'bars'>,
  onProgress: (done: number) => void,
): RenderedSound {
  let rendering: Render<readonly BouncedFile[]> | null = null;
  let cancelled = false;
  const asset = soundOf(id).then(async (document) => {
    if (cancelled) throw new DOMException('cancelled', 'AbortError');
    rendering = startBacking(document, under, onProgress);
    const [{ bytes }] = await rendering.result;
    return takeWav(new Blob([bytes as Uint8Array<ArrayBuffer>]));
  });
  return {
    asset,
    cancel: () => {
      cancelled = true;
      rendering?.cancel();
    },
  };
}
