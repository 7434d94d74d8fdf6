import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useLocation } from 'react-router';
import { STATIONS } from '../stations';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

type Keys = readonly (readonly [string, string])[];

const EVERYWHERE: Keys = [
  ['Space', 'play or stop'],
  ['P', 'play from the chosen note, or from where you last clicked the loop'],
  [`1 – ${STATIONS.length}`, 'go to a station'],
  ['[ and ]', 'previous layer, next layer'],
  ['U, I, O', 'tone 1, 2, 3 of the layer'],
  ['E', 'hear A or B, once something is set against the sound'],
  ['Z – / and A – ;', 'play the scale in two octaves; with Shift, accented'],
  ['Ctrl Z, Ctrl Y', 'undo, redo (Ctrl Shift Z too)'],
  ['Ctrl S', 'save now'],
  ['?', 'show or hide this sheet'],
];
const ROWS: Keys = [
  ['arrows', 'change the value; with Shift, finely'],
  ['Page Up, Page Down', 'change it in large steps'],
  ['Home, End', 'lowest, highest value'],
  ['Delete', 'back to the default'],
  ['wheel', 'change the focused value'],
  ['double click', 'back to the default'],
];

/** What each station is for, and the keys that work there alone. */
const HERE: Readonly<Record<string, { readonly what: string; readonly keys: Keys }>> = {
  ground: {
    what: 'What the bass has to fit: tempo, key, length, the kick and its beats, the parts it must leave room for, and the targets for the figures.',
    keys: [['↑ ↓ on a beat', 'how hard the kick hits there']],
  },
  layers: {
    what: 'What the sound is made of: layers from the sub up, each with up to three tones, two filters, an envelope and a voice of its own. Warnings under the figures say what takes the lows away.',
    keys: [
      ['↑ ↓ on a layer’s name', 'previous, next layer; with Alt, move the layer'],
      ['arrows on a drawing', 'move the focused corner, or bend the focused line'],
    ],
  },
  motion: {
    what: 'What makes the sound move: wobbles and envelopes, drawn by hand, and the links that send them to any parameter.',
    keys: [
      ['arrows on a node', 'move it'],
      ['Insert or double click', 'add a node'],
      ['Delete on a node', 'remove it'],
    ],
  },
  grit: {
    what: 'What roughens and fills the sound: bands split by depth, each with a chain of units, the lowest left clean and mono unless you work on it. Each unit says what it does to the loop; hold its level with match, and compare it in and out.',
    keys: [
      ['← → on a unit', 'previous, next unit; with Alt, move it'],
      ['↑ ↓ on a unit', 'to the chain above or below; with Alt, move it there'],
      ['Delete on a unit', 'remove it'],
      ['↑ ↓ on a border', 'move the crossover; with Shift, finely'],
    ],
  },
  line: {
    what: 'What the sound plays: a sheet of rows folded to the scale, deep notes low. Above each note under a kick you read how well the two add up.',
    keys: [
      ['arrows', 'move the chosen notes; Shift ↑ ↓ by an octave'],
      ['Shift ← →', 'shorter, longer'],
      ['+ and −', 'velocity'],
      ['Q', 'accent'],
      ['T', 'tie'],
      ['Delete', 'delete the notes'],
      ['Ctrl A', 'choose all notes'],
    ],
  },
  sounding: {
    what: 'What is true of the sound: which notes are felt, implied or lost on which playback system, everything that is measured against its target, the worst first, and what would mend it. Choose a note on a system to see its harmonics there; rest on a mend to see the map as it would be.',
    keys: [['arrows on a note', 'choose the next note, or the next system']],
  },
  lock: {
    what: 'How the bass sits with the kick, hit by hit: their waves below one frequency, the phase between them as a rose you can turn, and advice on what would make them agree, each proposal rendered before it is offered.',
    keys: [
      ['← → on the rose', 'turn the bass; with Shift, finely'],
      ['← → on the overlay', 'move along the wave; + − or the wheel zoom, Home goes back'],
    ],
  },
};

function KeyList({ title, keys }: { readonly title: string; readonly keys: Keys }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 1.5 }}>
      <Box component="h3" sx={{ m: 0, fontSize: TYPE.body, fontWeight: 600 }}>
        {title}
      </Box>
      <Box
        component="dl"
        sx={{
          m: 0,
          display: 'grid',
          gridTemplateColumns: '150px 1fr',
          gap: '2px 12px',
          fontSize: TYPE.body,
          '& dt': { fontWeight: 500 },
          '& dd': { m: 0, color: sea.ink2 },
        }}
      >
        {keys.map(([key, does]) => (
          <Box key={key} sx={{ display: 'contents' }}>
            <dt>{key}</dt>
            <dd>{does}</dd>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** The keys that work here, and what the station is for. */
export function KeysSheet() {
  const shown = useView((state) => state.keysShown);
  const path = useLocation().pathname.split('/')[3] ?? '';
  const name = STATIONS.find((station) => station.path === path)?.name ?? '';
  const here = HERE[path];
  const close = () => {
    useView.setState({ keysShown: false });
  };
  return (
    <Dialog open={shown} onClose={close} aria-labelledby="keys-title" maxWidth="sm" fullWidth>
      <DialogTitle id="keys-title" sx={{ fontSize: TYPE.title, pb: 0.5 }}>
        {name}
      </DialogTitle>
      <DialogContent
        onKeyDown={(event) => {
          if (event.key === '?') close();
        }}
      >
        {here && <Box sx={{ fontSize: TYPE.body, lineHeight: 1.45 }}>{here.what}</Box>}
        {here && <KeyList title={`At ${name}`} keys={here.keys} />}
        <KeyList title="At every station" keys={EVERYWHERE} />
        <KeyList title="On a row with a slider" keys={ROWS} />
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" autoFocus onClick={close}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
