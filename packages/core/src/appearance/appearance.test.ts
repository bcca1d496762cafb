/** Which changes a page's picture follows. The laws are this project's own; no standard speaks of them. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { listAppearanceParts } from './index.ts';

const files: Record<string, { hash: string; to: string[] }> = {
  'index.html': { hash: 'p1', to: ['/style.css?v=2', '/about/', '/logo.png', '/gone.png', '/'] },
  'about/index.html': { hash: 'p2', to: ['/style.css'] },
  'style.css': { hash: 's', to: ['/type.css', '/paper.png'] },
  'type.css': { hash: 't', to: ['/style.css', '/face.woff2'] },
  'logo.png': { hash: 'l', to: [] },
  'paper.png': { hash: 'pp', to: [] },
  'face.woff2': { hash: 'f', to: [] },
};
const parts = (over: Record<string, string> = {}, path = 'index.html') =>
  listAppearanceParts(path, {
    hashOf: (file) => over[file] ?? files[file]?.hash,
    refersTo: (file) => files[file]?.to ?? [],
  });

describe('the parts of a look', () => {
  it('are the page, what it loads and what that loads, round in a circle too, and no other page', () =>
    expect(parts()).toEqual([
      'face.woff2 f',
      'index.html p1',
      'logo.png l',
      'paper.png pp',
      'style.css s',
      'type.css t',
    ]));

  it('change with any of them and with nothing else (property)', () => {
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(files)), (file) => {
        const changed = parts({ [file]: 'other' }).join() !== parts().join();
        expect(changed).toBe(file !== 'about/index.html');
      }),
    );
  });
});
