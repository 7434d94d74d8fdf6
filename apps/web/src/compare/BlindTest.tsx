import { chanceOfRight } from '@abyssal/core';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState } from 'react';
import { audio } from '../audio/audio-host';
import { Choice } from '../controls/Choice';
import { hearOther } from '../sounding/other-store';
import { tellError, useView } from '../state/view-store';

const ROUNDS = 10;
const either = (): 'A' | 'B' => (Math.random() < 0.5 ? 'A' : 'B');

/** "1 in 1000", or in per cent where that says more. */
function chanceWords(right: number): string {
  const chance = chanceOfRight(right, ROUNDS);
  return chance < 0.01 ? `1 time in ${Math.round(1 / chance)}` : `${Math.round(100 * chance)} times in 100`;
}

function verdictWords(right: number): string {
  if (chanceOfRight(right, ROUNDS) < 0.05) return 'You do hear a difference.';
  return right >= 6
    ? 'That is not enough to be sure that you hear a difference.'
    : 'You do not hear a difference.';
}

/** Ten rounds: X is A or B, and the listener says which. What is right is told at the end. */
export function BlindTest({ name, onClose }: { readonly name: string; readonly onClose: () => void }) {
  const playing = useView((state) => state.playing);
  const [x, setX] = useState(either);
  const [heard, setHeard] = useState<'A' | 'B' | 'X'>('A');
  const [answers, setAnswers] = useState<readonly boolean[]>([]);
  const hear = (what: 'A' | 'B' | 'X') => {
    setHeard(what);
    hearOther(what === 'X' ? x : what);
    if (!playing) audio.play().catch(tellError);
  };
  const answer = (said: 'A' | 'B') => {
    setAnswers([...answers, said === x]);
    const next = either();
    setX(next);
    // The next one is not given away by what sounds on.
    setHeard('A');
    hearOther('A');
  };
  const right = answers.filter(Boolean).length;
  const done = answers.length === ROUNDS;
  const close = () => {
    hearOther('A');
    onClose();
  };
  return (
    <Dialog open onClose={close} maxWidth="xs" fullWidth aria-labelledby="blind-title">
      <DialogTitle id="blind-title">Blind test: is it A or B?</DialogTitle>
      <DialogContent dividers>
        {done ? (
          <Box role="status">
            {right} of {ROUNDS} were right. Somebody who guesses is right as often, or more often,{' '}
            {chanceWords(right)}. {verdictWords(right)}
          </Box>
        ) : (
          <>
            <Box sx={{ mb: 1 }}>
              A is the sound, B is “{name}”; X is one of the two. Listen as often as you like, then say which
              X is. What was right is told after {ROUNDS}.
            </Box>
            <Box role="status" sx={{ mb: 1 }}>
              Round {answers.length + 1} of {ROUNDS}
            </Box>
            <Choice
              label="Hear in the test"
              options={(['A', 'B', 'X'] as const).map((value) => ({ value, label: value }))}
              value={heard}
              onChange={hear}
            />
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>{done ? 'Close' : 'Leave off'}</Button>
        {done ? (
          <Button
            variant="contained"
            onClick={() => {
              setAnswers([]);
            }}
          >
            Once more
          </Button>
        ) : (
          (['A', 'B'] as const).map((said) => (
            <Button
              key={said}
              variant="contained"
              onClick={() => {
                answer(said);
              }}
            >
              X is {said}
            </Button>
          ))
        )}
      </DialogActions>
    </Dialog>
  );
}
