import {
  chainFigureSteps,
  DUCKING_FRAMES,
  firstLook,
  fitSteps,
  hardHoldMs,
  keepJob,
  layerJobs,
  layerJobSteps,
  matchedChain,
  middle,
  randomChain,
  renderKick,
  renderLoopSteps,
  rosesOf,
  measuredSteps,
  REPORT,
  reportFrom,
  withStems,
  besideLookOf,
  systemsOf,
  toneOf,
  turnedLowsSteps,
  type ChainFigures,
  type Fit,
  type FitOptions,
  type GritUnit,
  type ChainCache,
  type LayerCache,
  type LoopRender,
  type LowBand,
  type UnitFigures,
  type Proposal,
  type Recording,
  type SoundDocument,
  type SoundingOptions,
  type BesideLook,
  type KickMemory,
  type ToneCache,
  type ToneFigures,
  type TurnedLows,
  type UnitPlace,
} from '@abyssal/core';
import { expose, wrap } from 'comlink';
import { applyDelta, type Delta } from '../state/delta';
import { Breath } from './breath';
import { Helpers } from './helpers';
import { fillSideBySide, type RenderOne } from './layer-pool';
import type { SentAssets } from './render-types';
import type { Shown, ShownProposal, SoundingTold } from './told';

const RATE = 48000;
const KICK_POINTS = 1200;
/** Proposals are looked for only when no other change comes for so long: each takes a render. */
const FIT_PAUSE_MS = 300;
const PROGRESS_MS = 500;

const breath = new Breath();
const helpers = new Helpers(RATE, navigator.hardwareConcurrency, () =>
  wrap(new Worker(new URL('./layer.worker.ts', import.meta.url), { type: 'module' })),
);
/** What the layers are taken to be of the work where they are rendered side by side. */
const LAYERS_SHARE = 0.6;

function kickWave(document: SoundDocument, assets: ReadonlyMap<string, Recording>): Shown['kickWave'] {
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

/** What was made before of layers, of chains of grit, of tones and of the kick: what did not change is not made again. */
interface MeterCaches {
  readonly cache: LayerCache;
  readonly chains: ChainCache;
  readonly tones: ToneCache;
  readonly kicks: KickMemory;
}

type Tell = (told: SoundingTold) => void;

const shown = ({
  id,
  steps,
  title,
  document,
  costText,
  takes,
  after,
  gainDb,
  says,
}: Proposal): ShownProposal => ({ id, steps, title, document, costText, takes, after, gainDb, says });

/** One measurement: it ends early when another is asked for. */
class Measurement {
  private ended = false;
  /** Whether it is still looked for what may be done about the fit. */
  private fits = true;

  constructor(
    private readonly document: SoundDocument,
    private readonly assets: ReadonlyMap<string, Recording>,
    private readonly caches: MeterCaches,
    private readonly tell: Tell,
  ) {}

  end(): void {
    this.ended = true;
    this.fits = false;
  }

  /** Leaves off what may be done about the fit. */
  leaveFit(): void {
    this.fits = false;
  }

  /**
   * Measures the whole of a sound, the roses of its notes, and after a pause what may be done about its fit;
   * each is told as soon as it is known. `lockFirst`: kick and bass are looked at before anything else.
   */
  async run(lockFirst: boolean): Promise<void> {
    const { document, assets } = this;
    const looked = lockFirst ? await this.lookFirst() : null;
    if (this.ended) return;
    const { caches } = this;
    const options = { sampleRateHz: RATE, assets, ...caches };
    const progress = this.progress();
    await this.layersApart(options, progress);
    if (this.ended) return;
    // Null where there is no other worker.
    const beside = helpers.look(document, options);
    const loops: { readonly loop: LoopRender; readonly tone: Promise<ToneFigures | null> | null }[] = [];
    const onRender = (loop: LoopRender) => {
      const first = loops.length === 0;
      if (first) beside?.onLoop(loop);
      loops.push({ loop, tone: beside && this.toneElsewhere(first ? null : loop, beside.found) });
    };
    const measured = await this.through(
      measuredSteps(document, { ...options, onRender, onPart: beside?.onPart }),
      (done) => {
        progress(LAYERS_SHARE + (1 - LAYERS_SHARE) * done);
      },
    );
    if (!measured) return;
    const kickDrawn = kickWave(document, assets);
    const holdsMs = hardHoldMs(document, RATE, assets);
    const look = beside
      ? await this.lookBeside(beside.found, options)
      : besideLookOf(document, measured.value.render);
    if (!look || this.ended) return;
    const sounding = withStems(measured.value, look);
    const { render, figures, pass, passes, kick, told, bearings, backing } = sounding;
    this.tell({
      kind: 'shown',
      shown: {
        figures,
        notes: pass.notes,
        bearings,
        backing: backing && { loudness: backing, masked: look.depth.masked },
        depth: look.depth,
        heard: pass.heard,
        systems: systemsOf(document),
        mono: pass.mono,
        truePeakDbtp: pass.truePeakDbtp,
        passes,
        kick,
        clicks: pass.clicks,
        low: trace(pass.low),
        told,
        moved: render.moved,
        kickWave: kickDrawn,
        ducking: render.ducking && { rateHz: RATE / DUCKING_FRAMES, gains: render.ducking },
        hardHoldMs: holdsMs,
      },
    });
    const tones: ToneFigures[] = [];
    for (const { loop, tone } of loops) {
      // Figures are shown, and what is newer may be asked for, before tones are looked for here.
      await breath.take();
      const found = await tone;
      if (this.ended) return;
      tones.push(found ?? toneOf(document, loop, assets));
    }
    this.tell({
      kind: 'report',
      report: { figures: reportFrom(document, sounding, tones), tone: tones[0] },
    });
    const line = { locks: pass.notes, kick: pass.low.kick, bass: pass.low.bass };
    const turned = looked ?? (await this.through(turnedLowsSteps(document, line.locks, assets)));
    if (!turned) return;
    this.tell({ kind: 'roses', roses: rosesOf(line, turned.value) });
    await new Promise((resolve) => {
      setTimeout(resolve, FIT_PAUSE_MS);
    });
    if (!this.fits) return;
    const bassToKickDb = REPORT.bassToKick.measure(pass, document).value;
    await this.fit({ sampleRateHz: RATE, assets, bassToKickDb, known: line });
  }

  /** What another worker finds in the first loop, or what is found here where it fails. */
  private async lookBeside(
    elsewhere: Promise<BesideLook | null>,
    options: SoundingOptions,
  ): Promise<BesideLook | null> {
    const found = await elsewhere;
    if (found || this.ended) return found;
    const render = await this.through(renderLoopSteps(this.document, { ...options, stems: 'shares' }));
    return render && besideLookOf(this.document, render.value);
  }

  /**
   * What another worker finds of the tone of a loop, null standing for the one it looks at, once it is through with what
   * comes before; null where it fails.
   */
  private async toneElsewhere(
    loop: LoopRender | null,
    before: Promise<unknown>,
  ): Promise<ToneFigures | null> {
    await before;
    return this.ended ? null : helpers.tone(this.document, loop, this.assets).catch(() => null);
  }

  /** Renders the layers that changed, side by side where there are several. */
  private async layersApart(options: SoundingOptions, progress: (done: number) => void): Promise<void> {
    const jobs = layerJobs(this.document, options);
    // A layer that takes long is told of as it goes on.
    let finished = 0;
    const own: RenderOne = async (document, job) => {
      const made = await this.through(layerJobSteps(document, job, options), (share) => {
        progress(LAYERS_SHARE * (finished + share / jobs.length));
      });
      return made && made.value;
    };
    await fillSideBySide(
      this.document,
      jobs,
      (done, { pass }) => {
        keepJob(options, done);
        // It is on its way while others are rendered.
        if (done.of === 'layer' && pass === 0) helpers.send(done.made);
      },
      // What is done here keeps the others waiting until its first step is through: they are given theirs first.
      [...helpers.for(jobs.length, this.assets), own],
      () => this.ended,
      (share) => {
        finished = share;
        progress(LAYERS_SHARE * share);
      },
    );
  }

  /** Tells how far the figures are, now and then. */
  private progress(): (done: number) => void {
    let told = Date.now();
    return (done) => {
      if (Date.now() - told < PROGRESS_MS) return;
      told = Date.now();
      this.tell({ kind: 'progress', done });
    };
  }

  /** Runs steps to their end, or until this is ended: then null. `onStep` is given what each step yields. */
  private through<T, S>(
    steps: Generator<S, T>,
    onStep?: (step: S) => void,
  ): Promise<{ readonly value: T } | null> {
    return breath.through(steps, () => !this.ended, onStep);
  }

  /**
   * Looks at kick and bass before all else, and tells the look together with its roses: a rose that went away
   * for a moment would take a drag with it. What was turned for them is turned for the whole measurement as
   * well.
   */
  private async lookFirst(): Promise<{ readonly value: TurnedLows | null } | null> {
    const { document, assets } = this;
    const line = firstLook(document, assets);
    await breath.take();
    if (this.ended) return null;
    const turned = await this.through(turnedLowsSteps(document, line.locks, assets, line.bass));
    if (turned)
      this.tell({
        kind: 'look',
        look: { notes: line.locks, low: trace(line), ducking: line.ducking },
        roses: rosesOf(line, turned.value),
      });
    return turned;
  }

  /**
   * Looks for what may be done about the fit, and tells what is offered whenever another proposal was
   * measured.
   */
  private async fit(options: FitOptions): Promise<void> {
    const known = new Set<string>();
    const tell = ({ proposals, tried, ...rest }: Fit, done: number) => {
      const fresh = tried.filter(({ id }) => !known.has(id));
      for (const { id } of fresh) known.add(id);
      this.tell({
        kind: 'fit',
        fit: { ...rest, proposals: proposals.map(shown), tried: tried.map(shown) },
        lows: fresh.map(({ id, low }) => [id, trace(low)]),
        done,
      });
    };
    const found = await breath.through(
      fitSteps(this.document, options),
      () => this.fits,
      ({ soFar, done }) => {
        if (soFar) tell(soFar, done);
      },
    );
    if (found) tell(found.value, 1);
  }
}

/** What goes into a chain, of the sound for which it was found last. */
interface ChainInput {
  readonly of: SoundDocument;
  readonly place: UnitPlace;
  readonly figures: ChainFigures;
}

const samePlace = (a: UnitPlace, b: UnitPlace) => JSON.stringify(a) === JSON.stringify(b);

/** Measures sounds one after the other: the newest one only. */
export class Meter {
  private readonly assets = new Map<string, Recording>();
  private readonly caches: MeterCaches = {
    cache: new Map(),
    chains: new Map(),
    tones: new Map(),
    kicks: { last: null },
  };
  private newest: Measurement | null = null;
  private document: SoundDocument | null = null;
  private input: ChainInput | null = null;
  private chainAsked = 0;

  /** Takes recordings that sounds name from now on. */
  take(sent: SentAssets): void {
    for (const [hash, recording] of sent) {
      this.assets.set(hash, recording);
      helpers.take(hash, recording);
    }
  }

  /** Ends what is measured, whatever it is. */
  leave(): void {
    helpers.leave();
    this.newest?.end();
    this.newest = null;
  }

  /** Leaves off looking for what may be done about the fit: the sound has changed, and is to be measured in a moment. */
  leaveFit(): void {
    this.newest?.leaveFit();
  }

  /** What a chain of the sound that was told last does; null where another was asked for meanwhile. */
  async chain(place: UnitPlace): Promise<UnitFigures[] | null> {
    const asked = ++this.chainAsked;
    const found = await this.find(place, () => asked === this.chainAsked);
    return found && [...found.units];
  }

  /**
   * A chain by chance for a place where `present` stands, level with what goes in there in the sound that was told
   * last; locked units stay.
   */
  async tryChain(
    place: UnitPlace,
    seed: number,
    present: readonly GritUnit[],
    most: number,
  ): Promise<GritUnit[]> {
    const { document } = this;
    const found = await this.find(place, () => true);
    if (!found || !document) throw new Error('the sound has changed meanwhile; try again');
    return matchedChain(randomChain(seed, present, most), found.input, {
      sampleRateHz: RATE,
      tempoBpm: document.ground.tempoBpm,
      seed: document.seed,
    });
  }

  private async find(place: UnitPlace, wanted: () => boolean): Promise<ChainFigures | null> {
    const {
      document,
      assets,
      caches: { cache, chains },
      input,
    } = this;
    if (!document) return null;
    if (input?.of === document && samePlace(input.place, place)) return input.figures;
    const steps = chainFigureSteps(document, place, { sampleRateHz: RATE, assets, cache, chains });
    const found = await breath.through(steps, () => wanted() && this.document === document);
    if (!found) return null;
    this.input = { of: document, place, figures: found.value };
    return found.value;
  }

  /**
   * Measures a sound, told by what it has other than the one before, in its place; done when all is told, or
   * when it is ended.
   */
  async measure(delta: Delta | null, lockFirst: boolean, tell: Tell): Promise<void> {
    this.leave();
    this.document = applyDelta(this.document, delta);
    if (!this.document) return;
    this.newest = new Measurement(this.document, this.assets, this.caches, tell);
    await this.newest.run(lockFirst);
  }
}

expose(new Meter());
