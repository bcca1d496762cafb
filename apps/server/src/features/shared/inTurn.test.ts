import { expect, it } from 'vitest';
import { createTurns } from './inTurn.ts';

it('goes one after another for one key, beside one another for several, and on after a failure', async () => {
  const turn = createTurns();
  const order: string[] = [];
  const gates = new Map<string, () => void>();
  const work = (name: string) => async () => {
    order.push(`${name} begins`);
    await new Promise<void>((resolve) => gates.set(name, resolve));
    order.push(`${name} ends`);
    if (name === 'first') throw new Error('it fails');
    return name;
  };
  const first = turn('site', work('first'));
  const second = turn('site', work('second'));
  const other = turn('another site', work('other'));
  await new Promise(setImmediate);
  expect(order).toEqual(['first begins', 'other begins']);
  gates.get('first')?.();
  await expect(first).rejects.toThrow('it fails');
  await new Promise(setImmediate);
  expect(order.slice(2)).toEqual(['first ends', 'second begins']);
  gates.get('second')?.();
  gates.get('other')?.();
  expect(await Promise.all([second, other])).toEqual(['second', 'other']);
});
