/** What a visitor notices between two versions of a page. Sources: HTML standard, sections 4.3.4 (`nav`), 4.2.5 (`meta`); how it is counted is this project's own. */
import { describe, expect, it } from 'vitest';
import { line } from '../head/index.ts';
import {
  change,
  MOST_LETTERS,
  comparePage,
  describePageChange,
  createReleaseMessage,
  compareSources,
  type PageChange,
} from './index.ts';

const bytes = (html: string) => new TextEncoder().encode(html);
const between = (before: string, after: string) => comparePage(bytes(before), bytes(after));
const body = (inner: string) => `<title>T</title><body>${inner}`;

describe('between two versions of a page', () => {
  it.each<[string, string, string, Partial<PageChange>]>([
    ['nothing', body('<p>a'), body('<p>a'), {}],
    ['a title', '<title>A</title>', '<title>B</title>', { title: { before: 'A', after: 'B' } }],
    ['a title that comes', '', '<title>B</title>', { title: { before: '', after: 'B' } }],
    ['an entry of a menu', body('<nav><a href=/a>A</a></nav>'), body('<nav><a href=/a>B</a></nav>'), { menuPlaces: 1 }],
    [
      'where an entry leads, which is no other link',
      body('<nav><a href=/a>A</a></nav><a href=/a>A</a>'),
      body('<nav><a href=/b>A</a></nav><a href=/a>A</a>'),
      { menuPlaces: 1 },
    ],
    [
      'two entries apart',
      body('<nav><a href=/a>A</a><a href=/b>B</a><a href=/c>C</a></nav>'),
      body('<nav><a href=/a>1</a><a href=/b>B</a><a href=/c>3</a></nav>'),
      { menuPlaces: 2 },
    ],
    [
      'two entries side by side, once',
      body('<nav><a href=/a>A</a><a href=/b>B</a></nav>'),
      body('<nav><a href=/a>1</a><a href=/b>2</a></nav>'),
      { menuPlaces: 1 },
    ],
    ['text beside an entry in a menu', body('<nav>x<a href=/a>A</a></nav>'), body('<nav>y<a href=/a>A</a></nav>'), {}],
    ['a text', body('<p>a</p>'), body('<p>b</p>'), { textPlaces: 1 }],
    ['white space alone', body('<p>a  b</p>'), body('<p>a\nb</p> '), {}],
    [
      'scripts and styles',
      body('<script>a</script><style>a</style><template>a</template>'),
      body('<script>b</script><style>b</style><template>b</template>'),
      {},
    ],
    ['a link', body('<a href=/a>A</a>'), body('<a href=/b>A</a>'), { linksChanged: 1 }],
    ['a picture', body('<img src=a.png>'), body('<img src=b.png>'), { linksChanged: 1 }],
    ['what only machines follow', body('<q cite=/a>x</q>'), body('<q cite=/b>x</q>'), {}],
    [
      'an icon, told of the head',
      '<link rel=icon href=/a.ico>',
      '<link rel=icon href=/b.ico>',
      { head: [line('icons')] },
    ],
    ['a style sheet', '<link rel=stylesheet href=/a.css>', '<link rel=stylesheet href=/b.css>', { linksChanged: 1 }],
    ['a language', '<html lang=en>', '<html lang=cy>', { head: [line('language')] }],
    ['a line that goes', '<meta name=author content=a>', '', { head: [line('author')] }],
    [
      'a line that stands twice',
      '<meta name=author content=a>',
      '<meta name=author content=a><meta name=author content=b>',
      { head: [line('author')] },
    ],
    [
      'structured data',
      '<script type="Application/LD+JSON ">{}</script>',
      '<script type="Application/LD+JSON ">[]</script>',
      { head: [line('data')] },
    ],
  ])('is %s', (_, before, after, expected) => {
    const nothing = { title: undefined, head: [], menuPlaces: 0, linksChanged: 0, textPlaces: 0 };
    expect(between(before, after)).toEqual({ ...nothing, ...expected });
  });
});

it('is said part by part', () => {
  const all = {
    title: { before: 'A', after: 'B' },
    head: [line('author')],
    menuPlaces: 1,
    textPlaces: 2,
    linksChanged: 3,
  };
  expect(describePageChange(all)).toEqual(
    change('page', {
      parts: [
        change('page-title', { before: 'A', after: 'B' }),
        change('page-head', { lines: [line('author')] }),
        change('page-menus', { places: 1 }),
        change('page-text', { places: 2 }),
        change('page-links', { places: 3 }),
      ],
    }),
  );
  expect(describePageChange({ ...all, title: undefined, head: [], menuPlaces: 0, textPlaces: 0 })).toEqual(
    change('page-links', { places: 3 }),
  );
});

it('a message names as many pages as there is room for', () => {
  const facts = {
    site: 'M',
    url: 'https://m.example/',
    isFirst: false,
    newPages: [] as string[],
    changedPages: [] as string[],
  };
  const names = Array.from({ length: 10 }, (_, n) => `${n}${'x'.repeat(99)}`);
  const text = createReleaseMessage({ ...facts, newPages: names });
  expect(text).toBe(`New at M: ${names.slice(0, 4).join(', ')} and 6 more. https://m.example/`);
  expect([...text].length).toBeLessThanOrEqual(MOST_LETTERS);
  expect(createReleaseMessage({ ...facts, changedPages: ['y'.repeat(500)] })).toBe(
    'Brought up to date at M: 1 pages. https://m.example/',
  );
});

it('a difference shows lines apart from each other parted', () => {
  const lines = Array.from({ length: 12 }, (_, n) => String(n));
  const after = lines.map((each) => (each === '1' || each === '9' ? `${each}!` : each));
  expect(compareSources(lines.join('\n'), after.join('\n'), 1).map(({ sign, text }) => sign + text)).toEqual([
    ' 0',
    '-1',
    '+1!',
    ' 2',
    ' ',
    ' 8',
    '-9',
    '+9!',
    ' 10',
  ]);
  expect(compareSources('a\n', 'a\n')).toEqual([]);
});
