import { effectScope } from 'vue';
import { expect, it } from 'vitest';
import { useKept } from './kept.ts';

const visit = (key: string, current: string, act: (kept: ReturnType<typeof useKept>) => void = () => {}) => {
  const scope = effectScope();
  const kept = scope.run(() => useKept(key, () => current));
  if (!kept) throw new Error('no scope');
  act(kept);
  const seen = { text: kept.text.value, wasKept: kept.wasKept.value };
  scope.stop();
  return seen;
};

it('what was typed and not set is there when one comes back, and said', () => {
  visit('title a', 'Visit', ({ text }) => {
    text.value = 'Come and vis';
  });
  expect(visit('title b', 'About')).toEqual({ text: 'About', wasKept: false });
  expect(visit('title a', 'Visit')).toEqual({ text: 'Come and vis', wasKept: true });
  // Somebody else may have set another one meanwhile; what was typed stays.
  expect(visit('title a', 'Opening times')).toEqual({ text: 'Come and vis', wasKept: true });
});

it('what was set, or let go, is not kept', () => {
  expect(visit('title a', 'Come and vis')).toEqual({ text: 'Come and vis', wasKept: false });
  expect(visit('title a', 'Visit')).toEqual({ text: 'Visit', wasKept: false });
  visit('title c', 'News', ({ text }) => {
    text.value = 'N';
  });
  expect(visit('title c', 'News', ({ letGo }) => letGo())).toEqual({ text: 'News', wasKept: false });
});
