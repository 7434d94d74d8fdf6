import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { audio } from '../audio/audio-host';
import { allKeysUp, keyDown, keyUp } from '../audio/live';
import { hearOther, useOther } from '../sounding/other-store';
import { STATIONS } from '../stations';
import { redo, undo, useDocumentStore } from '../state/document-store';
import { saveNow, useSession } from '../state/session';
import { shownLayer, tellError, useView } from '../state/view-store';

/** Whether keys go into a field: not where its value has been entered and it rests. */
const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  !target.dataset.rests &&
  (target.isContentEditable ||
    ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && target.type !== 'checkbox' && target.type !== 'range'));
const takesSpace = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest(
    'button, a, [type="checkbox"], [role="combobox"], [role="option"], [role="menuitem"], [role="dialog"]',
  ) !== null;
const inDialog = (target: EventTarget | null) =>
  target instanceof Element && target.closest('[role="dialog"], [role="menu"], [role="listbox"]') !== null;

function playOrStop(fromTick = 0): void {
  if (useView.getState().playing) audio.stop();
  else audio.play(fromTick).catch(tellError);
}

/** Chooses the layer that stands so many places further on, from shallow to deep. */
function stepLayer(by: number): void {
  const { document } = useDocumentStore.getState();
  if (!document) return;
  const ids = document.layers.map(({ id }) => id).reverse();
  const shown = ids.length - 1 - shownLayer(document, useView.getState().layerId);
  useView.setState({ layerId: ids[(shown + by + ids.length) % ids.length], tone: 0 });
}

/**
 * The keys that work at every station: play, play from here, undo, stations by number, layers, tones, the
 * sheet of keys, and the scale on the two lower rows. A click with the mouse leaves no button in focus that
 * would take the space bar; what the
 * keyboard has reached keeps it.
 */
export function useKeys(): void {
  const navigate = useNavigate();
  useEffect(() => {
    const command = (event: KeyboardEvent): boolean => {
      if (event.code === 'KeyZ' && event.shiftKey) redo();
      else if (event.code === 'KeyZ') undo();
      else if (event.code === 'KeyY') redo();
      else if (event.code === 'KeyS') saveNow();
      else return false;
      return true;
    };
    const plain = (event: KeyboardEvent): boolean => {
      const station = /^Digit([1-9])$/.exec(event.code);
      const tone = { KeyU: 0, KeyI: 1, KeyO: 2 }[event.code];
      if (event.key === '?') useView.setState(({ keysShown }) => ({ keysShown: !keysShown }));
      else if (event.code === 'Space') {
        if (takesSpace(event.target)) return false;
        playOrStop();
      } else if (event.code === 'KeyP') audio.play(useView.getState().hereTick).catch(tellError);
      else if (station && !event.shiftKey && STATIONS[Number(station[1]) - 1])
        void navigate(`/sounds/${useSession.getState().id}/${STATIONS[Number(station[1]) - 1].path}`);
      else if (event.code === 'BracketLeft' || event.code === 'BracketRight')
        stepLayer(event.code === 'BracketLeft' ? -1 : 1);
      else if (event.code === 'KeyE') hearOther(useOther.getState().heard === 'A' ? 'B' : 'A');
      else if (tone !== undefined) useView.setState({ tone });
      else {
        const ground = useDocumentStore.getState().document?.ground;
        return !event.repeat && ground !== undefined && keyDown(event.code, event.shiftKey, ground);
      }
      return true;
    };
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || inDialog(event.target)) return;
      const typing = isTyping(event.target);
      const commands = event.ctrlKey || event.metaKey;
      // In a field that is being typed in, undo is the field's own; saving is always the page's.
      const taken = commands
        ? (!typing || event.code === 'KeyS') && command(event)
        : !event.altKey && !typing && plain(event);
      if (taken) event.preventDefault();
    };
    const up = (event: KeyboardEvent) => {
      keyUp(event.code);
    };
    const clicked = (event: MouseEvent) => {
      const button =
        event.detail > 0 && event.target instanceof Element
          ? event.target.closest<HTMLElement>('button, a, label, input[type="checkbox"]')
          : null;
      const focused = document.activeElement;
      if (
        button &&
        focused instanceof HTMLElement &&
        focused.matches('button:not([role="tab"]), a, input[type="checkbox"]') &&
        !inDialog(button)
      )
        focused.blur();
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('click', clicked);
    window.addEventListener('blur', allKeysUp);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('click', clicked);
      window.removeEventListener('blur', allKeysUp);
      allKeysUp();
    };
  }, [navigate]);
}
