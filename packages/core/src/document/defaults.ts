import type { Infer, SchemaNode } from './schema.js';
import { layerShape, moverShape, noteShape, soundShape, type EnvelopeMover, type Layer, type LineNote, type SoundDocument, type Wobble } from './shape.js';

/** The default value of a node: each number at its default, lists empty, nullable places null. */
export function defaultOf<N extends SchemaNode>(node: N): Infer<N> {
  const value = (n: SchemaNode): unknown => {
    switch (n.kind) {
      case 'number': case 'text': case 'flag': case 'choice': return n.default;
      case 'literal': return n.value;
      case 'list': return [];
      case 'nullable': return null;
      case 'object': return Object.fromEntries(Object.entries(n.fields).map(([key, field]) => [key, value(field)]));
      case 'variant': return value(Object.values(n.cases)[0]);
    }
  };
  return value(node) as Infer<N>;
}

/** A Sub layer from clean: one centred sine with nothing in its way. */
export function cleanSub(): Layer {
  const layer = defaultOf(layerShape);
  return {
    ...layer, id: 'sub', name: 'Sub', role: 'sub', levelDb: -6,
    tone: { ...layer.tone, shape: 'sine' },
    filter: { ...layer.filter, on: false, cutoffHz: 200, slope: '12' },
  };
}

/** A Body layer from clean: one saw through a low-pass. */
export function cleanBody(): Layer {
  return { ...defaultOf(layerShape), id: 'body', name: 'Body', role: 'body', levelDb: -10 };
}

export function cleanWobble(): Wobble {
  return {
    ...(defaultOf(moverShape.cases.wobble) as Wobble),
    nodes: [{ x: 0, y: 0, bend: 0 }, { x: 0.5, y: 1, bend: 0 }, { x: 1, y: 0, bend: 0 }],
  };
}

export function cleanEnvelope(): EnvelopeMover {
  return defaultOf(moverShape.cases.envelope) as EnvelopeMover;
}

export function cleanNote(note: Partial<LineNote> = {}): LineNote {
  return { ...defaultOf(noteShape), ...note };
}

/** A new sound: Sub and Body, a kick on every beat, one held root note a bar, one wobble that moves nothing yet. */
export function cleanSound(name = 'New sound'): SoundDocument {
  const sound = defaultOf(soundShape);
  return {
    ...sound,
    name,
    kick: { ...sound.kick, hits: Array.from({ length: 8 }, (_, beat) => ({ tick: beat * 480, velocity: 100 })) },
    layers: [cleanSub(), cleanBody()],
    movers: [cleanWobble(), cleanEnvelope()],
    line: { notes: [cleanNote({ tick: 0, ticks: 1680 }), cleanNote({ tick: 1920, ticks: 1680 })] },
  };
}
