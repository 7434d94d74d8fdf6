import type { Layer, Link, Monitor, SoundDocument, ThroughWays, Tone } from '@abyssal/core';
import { create } from 'zustand';

/** A layer and the links into it, their targets within it. */
export interface CopiedLayer {
  readonly layer: Layer;
  readonly links: readonly Link[];
}
export type LayerPanel = 'loudness' | 'voice' | 'pitch' | 'plays' | 'feedback' | 'units';

/** What is looked at and listened to; not part of the sound. */
export interface ViewState {
  readonly layerId: string | null;
  /** Tone and filter that are looked at in the layer, and which of its further panels. */
  readonly tone: number;
  readonly filter: number;
  readonly layerPanel: LayerPanel;
  /**
   * What alone is heard: layers by id, tones as `id.number`, bands as `band id`, the clean path as `clean path`. Not
   * part of the sound, and not measured.
   */
  readonly solo: readonly string[];
  /** A layer that was copied, with its links, until the page is left. */
  readonly copied: CopiedLayer | null;
  /** A tone that was copied, until the page is left. */
  readonly copiedTone: Tone | null;
  readonly moverId: string | null;
  /** The unit that is looked at, and which entry of its list: a section of an equaliser, say. */
  readonly unitId: string | null;
  readonly entry: number;
  readonly playing: boolean;
  /**
   * Tick of the loop from which “play from here” plays: the note chosen last, or where the loop was clicked.
   */
  readonly hereTick: number;
  /** Whether the sheet of keys is open. */
  readonly keysShown: boolean;
  readonly monitor: Monitor;
  readonly mono: boolean;
  /** Id of the playback system that is heard through; null where the sound is heard by itself. */
  readonly through: string | null;
  /** At which level, and whether with the noise of its room. */
  readonly throughWays: ThroughWays;
  /** One sentence that wants to be read, with a way on where there is one. */
  readonly notice: {
    readonly text: string;
    readonly action?: { readonly label: string; readonly run: () => void };
  } | null;
}

export const useView = create<ViewState>(() => ({
  layerId: null,
  tone: 0,
  filter: 0,
  layerPanel: 'loudness',
  solo: [],
  copied: null,
  copiedTone: null,
  moverId: null,
  unitId: null,
  entry: 0,
  playing: false,
  hereTick: 0,
  keysShown: false,
  monitor: 'both',
  mono: false,
  through: null,
  throughWays: { level: 'matched', noise: false },
  notice: null,
}));

/** Place of the layer that is looked at: the chosen one; where none was chosen, the first that is no sub. */
export function shownLayer({ layers }: SoundDocument, layerId: string | null): number {
  const chosen = layers.findIndex(({ id }) => id === layerId);
  return Math.max(0, chosen >= 0 ? chosen : layers.findIndex(({ role }) => role !== 'sub'));
}

export function tell(text: string, action?: { label: string; run: () => void }): void {
  useView.setState({ notice: { text, action } });
}

/** Makes a sentence of what went wrong. */
export function tellError(error: unknown): void {
  const text = error instanceof Error ? error.message : String(error);
  tell(`${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`);
}
