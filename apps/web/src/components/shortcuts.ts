/** Keys that hold while a component is there. Inside what is typed into, only those with Ctrl count. */
import { useEventListener } from '@vueuse/core';
import { isTyping, matchesKey, type Key } from '../logic/keys.ts';

export interface Shortcut extends Key {
  readonly run: (event: KeyboardEvent) => void;
  /** Also while typing. */
  readonly always?: boolean;
}

export function useShortcuts(shortcuts: () => readonly Shortcut[]): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.defaultPrevented) return;
    const typing = isTyping(event.target);
    const found = shortcuts().find((shortcut) => matchesKey(event, shortcut) && (!typing || shortcut.always === true));
    if (!found) return;
    event.preventDefault();
    found.run(event);
  });
}

/** Two keys, one after the other: G, then a letter. */
export function useLeader(leader: string, follow: (key: string) => boolean): void {
  let until = 0;
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.timeStamp < until) {
        until = 0;
        if (follow(event.key.toLowerCase())) {
          // Before the ledger's own letters see it.
          event.preventDefault();
          event.stopImmediatePropagation();
        }
        return;
      }
      if (event.key.toLowerCase() === leader) {
        until = event.timeStamp + 1500;
        event.preventDefault();
        event.stopImmediatePropagation();
      }
    },
    { capture: true },
  );
}
