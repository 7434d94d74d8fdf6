import {
  DUCKING_FRAMES, fileNameOf, fitSteps, hardHoldMs, middle, renderKick, renderLoopSteps, roseSteps, soundingSteps, writeWav, type LowBand, type PassFigures, type Sounding, type Assets, type LayerCache, type LoopRender, type Recording, type SoundDocument, type Stereo,
} from '@abyssal/core';
import type { FromSounding, SentAssets, Shown, ToSounding } from './protocol';

const RATE = 48000;
const KICK_POINTS = 1200;
/** Proposals are looked for only when no other change comes for so long: each takes a render. */
const FIT_PAUSE_MS = 300;

const assets = new Map<string, Recording>();
/** Kept from one render to the next: layers that did not change are not rendered again. */
const cache: LayerCache = new Map();
let newest = 0;

const say = (message: FromSounding, transfer: Transferable[] = []) => { self.postMessage(message, { transfer }); };
const { port1, port2 } = new MessageChannel();
/** Lets messages in between two steps of work, so that a job that is out of date ends early. */
const breathe = () => new Promise<void>((resolve) => {
  port1.onmessage = () => { resolve(); };
  port2.postMessage(null);
});

function kickWave(document: SoundDocument): Shown['kickWave'] {
  const hit = renderKick(document, RATE, assets);
  const mono = hit.left.length > 0 ? middle([hit.left, hit.right]) : hit.left;
  const every = Math.max(1, Math.floor(mono.length / KICK_POINTS));
  return { stepS: every / RATE, values: Float32Array.from({ length: Math.floor(mono.length / every) }, (_, i) => mono[i * every]) };
}

const trace = ({ kick, bass }: { readonly kick: LowBand; readonly bass: LowBand }) => ({ rateHz: kick.rateHz, kick: Float32Array.from(kick.re), bass: Float32Array.from(bass.re) });

/** Runs steps to their end, or until another job is asked for: then null. */
async function through<T>(job: number, steps: Generator<unknown, T>): Promise<T | null> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await breathe();
    if (newest !== job) return null;
  }
}

/** Finds the roses of a measured sound, and after a pause what may be done about its fit. */
async function advise(job: number, document: SoundDocument, { pass, figures }: Pick<Sounding, 'figures'> & { readonly pass: PassFigures }): Promise<void> {
  const line = { locks: pass.notes, kick: pass.low.kick, bass: pass.low.bass };
  const started = performance.now();
  const roses = await through(job, roseSteps(document, line, assets));
  if (!roses) return;
  say({ kind: 'roses', job, roses, tookMs: performance.now() - started });
  await new Promise((resolve) => { setTimeout(resolve, FIT_PAUSE_MS); });
  if (newest !== job) return;
  const bassToKickDb = figures.find(({ id }) => id === 'bassToKick')?.figure.value ?? null;
  const fit = await through(job, fitSteps(document, { sampleRateHz: RATE, assets, bassToKickDb, known: { line, roses } }));
  if (fit) say({ kind: 'fit', job, fit: { before: fit.before, proposals: fit.proposals.map((proposal) => ({ ...proposal, low: trace(proposal.low) })), tried: fit.tried.map(({ id, title, costText, cost, after, gainDb, document: changed }) => ({ id, title, costText, cost, after, gainDb, document: changed })) } });
}

async function sound(job: number, document: SoundDocument): Promise<void> {
  newest = job;
  const started = performance.now();
  const steps = soundingSteps(document, { sampleRateHz: RATE, assets, cache });
  for (;;) {
    const step = steps.next();
    if (step.done) {
      const { render, figures, pass, depth, kick, told, bearings, backing } = step.value;
      say({ kind: 'shown', job, shown: { figures, notes: pass.notes, bearings, backing, depth, kick, clicks: pass.clicks, low: trace(pass.low), told, kickWave: kickWave(document), ducking: render.ducking && { rateHz: RATE / DUCKING_FRAMES, gains: render.ducking }, hardHoldMs: hardHoldMs(document, RATE, assets), tookMs: performance.now() - started } });
      await advise(job, document, step.value);
      return;
    }
    await breathe();
    if (newest !== job) return;
  }
}

async function bounce({ job, document, assets: sent, sampleRateHz, bits, stems }: Extract<ToSounding, { kind: 'bounce' }>): Promise<void> {
  const own: Assets = new Map(sent);
  const steps = renderLoopSteps(document, { sampleRateHz, assets: own, stems });
  let loop: LoopRender;
  for (;;) {
    const step = steps.next();
    if (step.done) {
      loop = step.value;
      break;
    }
    say({ kind: 'progress', job, done: step.value });
    await breathe();
  }
  const base = fileNameOf(document.name);
  const parts: (readonly [string, Stereo])[] = [[base, loop.all]];
  if (stems) parts.push([`${base}-kick`, loop.kick], [`${base}-bass`, loop.bass], ...loop.layers.map((layer) => [`${base}-${layer.id}`, layer] as const));
  const files = parts.map(([name, { left, right }]) => ({ name: `${name}.wav`, bytes: writeWav([left, right], sampleRateHz, bits) }));
  say({ kind: 'bounced', job, files });
}

function takeAssets(sent: SentAssets): void {
  for (const [hash, recording] of sent) assets.set(hash, recording);
}

self.onmessage = ({ data }: MessageEvent<ToSounding>) => {
  const fail = (error: unknown) => { if ('job' in data) say({ kind: 'failed', job: data.job, message: error instanceof Error ? error.message : String(error) }); };
  if (data.kind === 'assets') takeAssets(data.assets);
  else if (data.kind === 'leave') newest = data.job;
  else if (data.kind === 'sound') sound(data.job, data.document).catch(fail);
  else bounce(data).catch(fail);
};
