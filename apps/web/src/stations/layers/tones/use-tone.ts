import type { SourceOf, ToneKind } from '@abyssal/core';
import { edit, useSound } from '../../../state/document-store';

/** Where an editor's tone stands. */
export interface ToneProps {
  readonly index: number;
  readonly tone: number;
}

/** The settings of a tone of a kind, their path, and how to change them as one undo step. */
export function useTone<K extends ToneKind>({ index, tone }: ToneProps) {
  const id = useSound((sound) => sound.layers[index].id);
  const name = useSound((sound) => sound.layers[index].name);
  const source = useSound((sound) => sound.layers[index].tones[tone].source) as SourceOf<K>;
  const of = `${name} tone ${tone + 1}`;
  return {
    source,
    of,
    at: ['layers', index, 'tones', tone, 'source'] as const,
    change: (what: string, recipe: (source: SourceOf<K>) => void, group: string | null = null) => {
      edit(
        `${of} · ${what}`,
        (draft) => {
          recipe(draft.layers[index].tones[tone].source as SourceOf<K>);
        },
        group && `${id} ${tone} ${group}`,
      );
    },
  };
}
