import {
  DUCKING_FRAMES,
  firstLook,
  fitSteps,
  hardHoldMs,
  middle,
  renderKick,
  rosesOf,
  soundingSteps,
  turnedLowsSteps,
  type Fit,
  type FitOptions,
  type LayerCache,
  type LowBand,
  type Proposal,
  type Recording,
  type SoundDocument,
  type TurnedLows,
} from '@abyssal/core';
import type { FromSounding, Shown, ShownProposal, ToSounding } from './protocol';
import type { SentAssets } from './render-types';

const RATE = 48000;
const KICK_POINTS = 1200;
/** Proposals are looked for only when no other change comes for so long: each takes a render. */
const FIT_PAUSE_MS = 300;

const assets = new Map<string, Recording>();
/** Kept from one render to the next: layers that did not change are not rendered again. */
const cache: LayerCache = new Map();
let newest = 0;

const say = (message: FromSounding, transfer: Transferable[] = []) => {
  self.postMessage(message, { transfer });
};
const { port1, port2 } = new MessageChannel();
/** Lets messages in between two steps of work, so that a job that is out of date ends early. */
const breathe = () =>
  new Promise<void>((resolve) => {
    port1.onmessage = () => {
      resolve();
    };
    port2.postMessage(null);
  });

function kickWave(document: SoundDocument): Shown['kickWave'] {
  const hit = renderKick(document, RATE, assets);
  const mono = hit.left.length > 0 ? middle([hit.left, hit.right]) : hit.left;
  const every = Math.max(1, Math.floor(mono.length / KICK_POINTS));
  return {
    stepS: every / RATE,
    values: Float32Array.from({ length: Math.floor(mono.length / every) }, (_, i) => mono[i * every]),
  };
}

const trace = ({ kick, bass }: { readonly kick: LowBand; readonly bass: LowBand }) => ({
  rateHz: kick.rateHz,
  kick: Float32Array.from(kick.re),
  bass: Float32Array.from(bass.re),
});

/** Runs steps to their end, or until another job is asked for: then null. */
async function through<T>(job: number, steps: Generator<unknown, T>): Promise<{ readonly value: T } | null> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step;
    await breathe();
    if (newest !== job) return null;
  }
}

/**
 * Looks at kick and bass before all else, and tells the look together with its roses: a rose that went away
 * for a moment would take a drag with it. What was turned for them is turned for the whole measurement as
 * well.
 */
async function lookFirst(
  job: number,
  document: SoundDocument,
): Promise<{ readonly value: TurnedLows | null } | null> {
  const line = firstLook(document, assets);
  await breathe();
  if (newest !== job) return null;
  const turned = await through(job, turnedLowsSteps(document, line.locks, assets, line.bass));
  if (turned)
    say({
      kind: 'look',
      job,
      look: { notes: line.locks, low: trace(line), ducking: line.ducking },
      roses: rosesOf(line, turned.value),
    });
  return turned;
}

/**
 * Looks for what may be done about the fit, and tells what is offered whenever another proposal was measured.
 */
async function fit(job: number, document: SoundDocument, options: FitOptions): Promise<void> {
  const told = new Set<string>();
  const shown = ({
    id,
    steps,
    title,
    document: changed,
    costText,
    takes,
    after,
    gainDb,
    says,
  }: Proposal): ShownProposal => ({
    id,
    steps,
    title,
    document: changed,
    costText,
    takes,
    after,
    gainDb,
    says,
  });
  const tell = ({ proposals, tried, ...rest }: Fit, done: number) => {
    const fresh = tried.filter(({ id }) => !told.has(id));
    for (const { id } of fresh) told.add(id);
    say({
      kind: 'fit',
      job,
      fit: { ...rest, proposals: proposals.map(shown), tried: tried.map(shown) },
      lows: fresh.map(({ id, low }) => [id, trace(low)]),
      done,
    });
  };
  const steps = fitSteps(document, options);
  for (;;) {
    const step = steps.next();
    if (step.done) {
      tell(step.value, 1);
      return;
    }
    if (step.value.soFar) tell(step.value.soFar, step.value.done);
    await breathe();
    if (newest !== job) return;
  }
}

/**
 * Measures a sound: the whole of it, the roses of its notes, and after a pause what may be done about its
 * fit; each is told as soon as it is known.
 */
async function sound({ job, document, lockFirst }: Extract<ToSounding, { kind: 'sound' }>): Promise<void> {
  newest = job;
  const looked = lockFirst ? await lookFirst(job, document) : null;
  if (newest !== job) return;
  const sounding = await through(job, soundingSteps(document, { sampleRateHz: RATE, assets, cache }));
  if (!sounding) return;
  const { render, figures, pass, depth, kick, told, bearings, backing } = sounding.value;
  say({
    kind: 'shown',
    job,
    shown: {
      figures,
      notes: pass.notes,
      bearings,
      backing,
      depth,
      kick,
      clicks: pass.clicks,
      low: trace(pass.low),
      told,
      kickWave: kickWave(document),
      ducking: render.ducking && { rateHz: RATE / DUCKING_FRAMES, gains: render.ducking },
      hardHoldMs: hardHoldMs(document, RATE, assets),
    },
  });
  const line = { locks: pass.notes, kick: pass.low.kick, bass: pass.low.bass };
  const turned = looked ?? (await through(job, turnedLowsSteps(document, line.locks, assets)));
  if (!turned) return;
  say({ kind: 'roses', job, roses: rosesOf(line, turned.value) });
  await new Promise((resolve) => {
    setTimeout(resolve, FIT_PAUSE_MS);
  });
  if (newest !== job) return;
  const bassToKickDb = figures.find(({ id }) => id === 'bassToKick')?.figure.value ?? null;
  await fit(job, document, { sampleRateHz: RATE, assets, bassToKickDb, known: line });
}

function takeAssets(sent: SentAssets): void {
  for (const [hash, recording] of sent) assets.set(hash, recording);
}

self.onmessage = ({ data }: MessageEvent<ToSounding>) => {
  const fail = (error: unknown) => {
    if ('job' in data)
      say({ kind: 'failed', job: data.job, message: error instanceof Error ? error.message : String(error) });
  };
  if (data.kind === 'assets') takeAssets(data.assets);
  else if (data.kind === 'leave') newest = data.job;
  else sound(data).catch(fail);
};
