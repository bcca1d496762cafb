/** Short notices at the foot of the screen: what was done, or what went wrong and what to do next. */
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { explain } from '../words/index.ts';

export interface Notice {
  readonly id: number;
  readonly kind: 'done' | 'problem';
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice>();
  let last = 0;
  const show = (next: Omit<Notice, 'id'>) => (notice.value = { ...next, id: (last += 1) });
  return {
    notice,
    done: (text: string, action?: Notice['action']) =>
      show(action ? { kind: 'done', text, action } : { kind: 'done', text }),
    problem: (error: unknown) => show({ kind: 'problem', text: explain(error) }),
    clear: () => (notice.value = undefined),
  };
});
