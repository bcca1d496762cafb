/** Whether removed things are shown in their places: in the tree, in menus and among sections alike. */
import { useLocalStorage } from '@vueuse/core';
import type { Ref } from 'vue';

export const useShowsRemoved = (): Ref<boolean> => useLocalStorage('fastigium.removed-in-place', true);
