import type { LayerJob, LayerJobDone, SoundDocument } from '@abyssal/core';

/** Renders something of a layer; null where it was left off because something else is wanted. */
export type RenderOne = (document: SoundDocument, job: LayerJob) => Promise<LayerJobDone | null>;

/**
 * Renders layers side by side: each of `renderers` takes the next one as soon as it is through with the one before, and
 * `keep` is given what was made. One that fails leaves its layer to whoever needs it, who meets and tells the same failure.
 *
 * @param onDone is told the share done, 0 to 1.
 */
export async function fillSideBySide(
  document: SoundDocument,
  jobs: readonly LayerJob[],
  keep: (done: LayerJobDone, job: LayerJob) => void,
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
      if (made) keep(made, job);
      done++;
      onDone(done / jobs.length);
    }
  };
  await Promise.all(renderers.map(work));
}
