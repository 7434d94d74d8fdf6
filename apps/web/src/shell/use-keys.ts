import { useEffect } from 'react';
import { audio } from '../audio/audio-host';
import { allKeysUp, keyDown, keyUp } from '../audio/live';
import { redo, undo, useDocumentStore } from '../state/document-store';
import { saveNow } from '../state/session';
import { tellError, useView } from '../state/view-store';

const isTyping = (target: EventTarget | null) => target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));
const isButton = (target: EventTarget | null) => target instanceof HTMLElement && target.closest('button, a, [role="combobox"], [role="option"], [role="menuitem"], [role="dialog"]') !== null;

/** The keys that work at every station: play, undo, and the scale on the two lower rows. */
export function useKeys(): void {
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const command = event.ctrlKey || event.metaKey;
      if (command && event.code === 'KeyZ' && !isTyping(event.target)) {
        if (event.shiftKey) redo();
        else undo();
      } else if (command && event.code === 'KeyS') saveNow();
      else if (command || event.altKey || isTyping(event.target)) return;
      else if (event.code === 'Space' && !isButton(event.target)) {
        if (useView.getState().playing) audio.stop();
        else audio.play().catch(tellError);
      } else {
        const ground = useDocumentStore.getState().document?.ground;
        if (event.repeat || !ground || !keyDown(event.code, event.shiftKey, ground)) return;
      }
      event.preventDefault();
    };
    const up = (event: KeyboardEvent) => { keyUp(event.code); };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', allKeysUp);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', allKeysUp);
      allKeysUp();
    };
  }, []);
}
