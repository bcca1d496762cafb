/** What was typed and not set is kept when another row is chosen, and is there again when one comes back. */
import { onScopeDispose, ref, type Ref } from 'vue';

const texts = new Map<string, string>();

export interface KeptText {
  readonly text: Ref<string>;
  /** Whether the text was typed before and has not been set. */
  readonly wasKept: Ref<boolean>;
  /** Forgets what was typed. */
  letGo(): void;
}

/**
 * @param key of the thing and its field, `title 5f…`
 * @param current what is set now
 */
export function useKept(key: string, current: () => string): KeptText {
  const before = texts.get(key);
  const text = ref(before ?? current());
  const wasKept = ref(before !== undefined && before.trim() !== current().trim());
  onScopeDispose(() => {
    if (text.value.trim() === current().trim()) texts.delete(key);
    else texts.set(key, text.value);
  });
  return {
    text,
    wasKept,
    letGo() {
      texts.delete(key);
      [text.value, wasKept.value] = [current(), false];
    },
  };
}
