/** Something that is tried by a form: under way, and what went wrong with it in words. */
import { ref, type Ref } from 'vue';
import { explain } from '../words/index.ts';

export function useAttempt(): {
  readonly problem: Ref<string>;
  readonly busy: Ref<boolean>;
  attempt(work: () => Promise<unknown>): Promise<void>;
} {
  const problem = ref('');
  const busy = ref(false);
  return {
    problem,
    busy,
    async attempt(work) {
      problem.value = '';
      busy.value = true;
      try {
        await work();
      } catch (error) {
        problem.value = explain(error);
      } finally {
        busy.value = false;
      }
    },
  };
}
