/** Keys as data, so that the finder, the list of keys and the handler say the same. */

export interface Key {
  /** `k`, `Enter`, `ArrowDown` … as KeyboardEvent.key gives it, letters in lower case. */
  readonly key: string;
  readonly ctrl?: boolean;
  readonly shift?: boolean;
}

interface Pressed {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly altKey: boolean;
  readonly shiftKey: boolean;
}

export function matchesKey(event: Pressed, { key, ctrl = false, shift = false }: Key): boolean {
  const pressed = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  if (pressed !== key || event.altKey || (event.ctrlKey || event.metaKey) !== ctrl) return false;
  // Signs such as "?" need shift on some layouts and not on others: for them it does not count.
  return /^[a-z]$|^.{2,}$/.test(key) ? event.shiftKey === shift : true;
}

/** Whether a key belongs to what is typed into. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement)
    return true;
  return target instanceof HTMLInputElement && !['checkbox', 'radio', 'button', 'submit', 'file'].includes(target.type);
}
