import type { CachedLayer, LayerCache, LayerJob, SoundDocument } from '@abyssal/core';

/** Renders a layer; null where it was left off because something else is wanted. */
export type RenderOne = (document: SoundDocument, job: LayerJob) => Promise<CachedLayer | null>;

/**
 * Renders layers side by side into a cache: each of `renderers` takes the next one as soon as it is through with the one
 * before. One that fails leaves its layer to whoever needs it, who meets and tells the same failure.
 *
 * @param onDone is told the share done, 0 to 1.
 */
export async function fillSideBySide(
  document: SoundDocument,
  jobs: readonly LayerJob[],
  cache: LayerCache,
  renderers: readonly RenderOne[],
  ended: () => boolean,
  onDone: (share: number) => void,
): Promise<void> {
  const waiting = [...jobs];
  let done = 0;
  const work = async (render: RenderOne) => {
    for (let job = waiting.shift(); job && !ended(); job = waiting.shift()) {
      const made = await render(document, job).catch(() => null);
      if (ended()) return;
      if (made) cache.set(made.name, made.entry);
      done++;
      onDone(done / jobs.length);
    }
  };
  await Promise.all(renderers.map(work));
}
