import {
  assetsOf,
  type MatchedGains,
  type OtherLoop,
  type SoundDocument,
  type Through,
  type ThroughWays,
} from '@abyssal/core';
import { deltaOf } from '../state/delta';
import { useDocumentStore } from '../state/document-store';
import { soloed } from '../state/solo';
import { recording } from '../state/recordings';
import { tell, tellError, useView } from '../state/view-store';
import { frozenIn } from './frozen-layers';
import processorUrl from './processor.ts?worker&url';
import { FRAMES, SharedAudio, type FromAudio, type ToAudio } from './protocol';

/** By when something must be heard once play was pressed. */
const SILENT_MS = 1800;

/**
 * The sound as it is heard: a running engine on the audio thread, fed with every change of the open document.
 */
class AudioHost {
  readonly shared = new SharedAudio();
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private ready: Promise<void> | null = null;
  private readonly sent = new Set<string>();
  private watching: ReturnType<typeof setTimeout> | undefined;
  private instead: SoundDocument | null = null;
  /** What the audio thread was told last. */
  private told: SoundDocument | null = null;
  /** Ids of the layers that play back their render now. */
  private frozen = '';
  /** Whether a render is another one than before. */
  private refreezes = false;
  private held: ReadonlySet<string> = new Set();
  private readonly marks = new Set<(mark: number, place: number) => void>();
  /** Number of the next change or note that is told with one. */
  nextMark = 0;

  /** Makes the audio thread ready, so that play is heard at once; a page may do so before it may sound. */
  prepare(): Promise<void> {
    this.ready ??= this.make().catch((error: unknown) => {
      this.ready = null;
      throw error;
    });
    return this.ready;
  }

  private async make(): Promise<void> {
    const context = new AudioContext({ latencyHint: 'interactive' });
    await context.audioWorklet.addModule(processorUrl);
    this.node = new AudioWorkletNode(context, 'abyssal-engine', {
      numberOfInputs: 0,
      outputChannelCount: [2],
      processorOptions: { shared: this.shared.buffer },
    });
    this.node.onprocessorerror = () => {
      tell('The sound engine stopped. Reload the page to hear it again; nothing of your work is lost.');
    };
    this.node.port.onmessage = ({ data }: MessageEvent<FromAudio>) => {
      for (const told of this.marks) told(data.mark, data.place);
    };
    this.node.connect(context.destination);
    this.context = context;
    const { document } = useDocumentStore.getState();
    if (document) this.load(document);
    useDocumentStore.subscribe((state, before) => {
      if (!state.document || state.document === before.document) return;
      if (before.document === null) this.load(state.document);
      else if (!this.instead) this.update(state.document);
      void this.sendAssets(state.document);
    });
    useView.subscribe(({ monitor, mono, solo }, before) => {
      const { document } = useDocumentStore.getState();
      if (solo !== before.solo && document) this.update(document);
      if (monitor !== before.monitor || mono !== before.mono) this.post({ kind: 'listen', monitor, mono });
    });
  }

  /** Takes what may be heard in the place of the sound; null for none. */
  takeOther(loop: OtherLoop | null): void {
    this.post({ kind: 'other', loop });
  }

  /** How the sound and the other are matched. */
  match(gains: MatchedGains): void {
    this.post({ kind: 'match', gains });
  }

  hearOther(on: boolean): void {
    this.post({ kind: 'hear other', on });
  }

  /** Hears through a system from now on; null for none. */
  hearThrough(through: Through | null, ways: ThroughWays): void {
    this.post({ kind: 'through', through, ways });
  }

  private load(document: SoundDocument): void {
    const { monitor, mono, solo } = useView.getState();
    this.frozen = '';
    this.told = soloed(document, solo);
    this.post({ kind: 'load', document: this.told, assets: [] });
    this.post({ kind: 'listen', monitor, mono });
    void this.sendAssets(document);
  }

  private update(document: SoundDocument): void {
    const heard = this.withoutHeld(soloed(document, useView.getState().solo));
    this.sendFrozen(heard);
    const delta = deltaOf(this.told, heard);
    this.told = heard;
    if (delta) this.post({ kind: 'update', delta, mark: this.takeMark() });
  }

  /** Lets those layers play back their render whose render it still is in what is heard. */
  private sendFrozen(heard: SoundDocument): void {
    const layers = [...frozenIn(heard)];
    const ids = layers.map(([id]) => id).join();
    if (ids === this.frozen && (ids === '' || !this.refreezes)) return;
    this.frozen = ids;
    this.refreezes = false;
    this.post({ kind: 'freeze', layers });
  }

  /** Layers were frozen or thawed. */
  refreeze(): void {
    const present = this.instead ?? useDocumentStore.getState().document;
    this.refreezes = true;
    if (present) this.sendFrozen(soloed(present, useView.getState().solo));
  }

  /** Lanes whose numbers are in hand say nothing meanwhile. */
  private withoutHeld(document: SoundDocument): SoundDocument {
    if (this.held.size === 0) return document;
    return { ...document, lanes: document.lanes.filter(({ target }) => !this.held.has(target)) };
  }

  /** Takes the targets whose lanes are silent from now on, for they are moved by hand. */
  hold(targets: ReadonlySet<string>): void {
    this.held = targets;
    const { document } = useDocumentStore.getState();
    if (document && !this.instead) this.update(document);
  }

  /**
   * Has the audio thread tell where in the loop each change and each note is heard first: `told` is given the number
   * of the message. Gives how to end it.
   */
  mark(told: (mark: number, place: number) => void): () => void {
    this.marks.add(told);
    return () => this.marks.delete(told);
  }

  private takeMark(): number | null {
    return this.marks.size > 0 ? this.nextMark++ : null;
  }

  private post(message: ToAudio): void {
    this.node?.port.postMessage(message);
  }

  private async sendAssets(document: SoundDocument): Promise<void> {
    for (const hash of assetsOf(document)) {
      if (this.sent.has(hash) || !this.context) continue;
      this.sent.add(hash);
      try {
        const { channels, sampleRateHz } = await recording(hash);
        this.post({ kind: 'assets', assets: [[hash, { channels, sampleRateHz }]] });
      } catch (error) {
        this.sent.delete(hash);
        tellError(error);
      }
    }
  }

  /**
   * Plays a sound in the place of the open one, on and on in time, until it is asked for null; changes of the
   * open one are not heard meanwhile.
   */
  hearInstead(document: SoundDocument | null): void {
    this.instead = document;
    const present = document ?? useDocumentStore.getState().document;
    if (present) this.update(present);
  }

  get sampleRateHz(): number {
    return this.context?.sampleRate ?? 48000;
  }

  async play(fromTick = 0): Promise<void> {
    this.watchForSilence();
    await this.wake();
    this.post({ kind: 'play', fromTick });
    useView.setState({ playing: true });
  }

  /**
   * Where the browser gives no sound nothing fails: the audio thread just makes no frame. That is said, with
   * what to do.
   */
  private watchForSilence(): void {
    const { state } = this.shared;
    const before = state[FRAMES];
    clearTimeout(this.watching);
    this.watching = setTimeout(() => {
      if (state[FRAMES] === before)
        tell(
          'The browser is not playing any sound. Check that this page is allowed to play sound and that an output is connected and selected, then press play again. If that does not help, reload the page.',
        );
    }, SILENT_MS);
  }

  /** Plays from the start after so many beats of click. */
  async countIn(beats: number): Promise<void> {
    this.watchForSilence();
    await this.wake();
    this.post({ kind: 'count in', beats });
    useView.setState({ playing: true });
  }

  /** Clicks the beats while the loop plays. */
  click(on: boolean): void {
    this.post({ kind: 'click', on });
  }

  stop(): void {
    clearTimeout(this.watching);
    this.post({ kind: 'stop' });
    useView.setState({ playing: false });
  }

  async wake(): Promise<void> {
    await this.prepare();
    if (this.context?.state !== 'running') await this.context?.resume();
  }

  /** A live note; velocity 0 ends it. `told` is given the number under which it is told where it was heard. */
  note(pitch: number, velocity: number, told: (mark: number | null) => void = () => undefined): void {
    void this.wake().then(() => {
      const mark = this.takeMark();
      told(mark);
      this.post({ kind: 'note', pitch, velocity, mark });
    }, tellError);
  }
}

export const audio = new AudioHost();

/**
 * For whoever wants to hear by program what is heard: `abyssal.audio.shared.heard(frames)` in the browser's
 * console.
 */
Object.assign(globalThis, { abyssal: { audio } });
