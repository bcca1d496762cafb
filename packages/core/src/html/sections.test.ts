/**
 * What a page is made of. Sources: HTML standard, sections 4.3.1 to 4.3.11 (sections and headings) and 4.4.14 (`main`);
 * WAI-ARIA 1.2, landmark roles. How old pages are laid out, and what menus are named, is common practice, no source.
 */
import { describe, expect, it } from 'vitest';
import { findMainElement, parsePage, findParts, labelSection, findSectionNamed, findSections } from './index.ts';
import { findPartOf } from './sections.ts';
import { walkElements } from './document.ts';

const parsed = (html: string) => parsePage(new TextEncoder().encode(html));
/** Each section with its name and the source it stands for. */
const split = (html: string) =>
  findSections(parsed(html)).map(({ name, start, end }) => [name, html.slice(start, end)]);
const namesIn = (html: string) => findSections(parsed(html)).map(({ name }) => name);

describe('the element that holds what a page is about', () => {
  it.each([
    [
      'main, wherever the role or an article stands',
      '<div role=main id=a></div><article id=b></article><main id=c>',
      'c',
    ],
    ['the first main', '<main id=a></main><main id=b></main>', 'a'],
    [
      'the role where there is no main',
      '<article id=a></article><div role=main id=b></div><div role=main id=c></div>',
      'b',
    ],
    ['the only article', '<div id=a></div><article id=b></article>', 'b'],
    ['the body where there are several articles', '<body id=a><article id=b></article><article id=c></article>', 'a'],
    ['the body of a page with nothing of it', '<body id=a><div role=banner></div><p>x', 'a'],
    ['not a main of a picture', '<body id=a><svg><main id=b></main></svg>', 'a'],
  ])('is %s', (_, html, id) => {
    expect(findMainElement(parsed(html))?.attrs.find(({ name }) => name === 'id')?.value).toBe(id);
  });

  it('is not there in a page of frames', () => {
    expect(findMainElement(parsed('<frameset><frame src=a.html></frameset>'))).toBeUndefined();
    expect(split('<frameset><frame src=a.html></frameset>')).toEqual([]);
  });
});

describe('sections of a page', () => {
  it('go from heading to heading of their level, with lesser ones inside', () => {
    const html = `<main><h1>Moor</h1><p>Lead</p><h2>Bus</h2><p>Ten</p><h3>Stops</h3><p>Two</p><h2>Car</h2><p>Park</p></main>`;
    expect(split(html)).toEqual([
      ['Moor', '<h1>Moor</h1><p>Lead</p>'],
      ['Bus', '<h2>Bus</h2><p>Ten</p><h3>Stops</h3><p>Two</p>'],
      ['Car', '<h2>Car</h2><p>Park</p>'],
    ]);
  });

  it('say where their headings stand', () => {
    const html = '<main><p>Before</p><h2>Bus</h2><p>Ten</p><div><h2>Car</h2>Park</div></main>';
    const found = findSections(parsed(html));
    expect(found.map(({ heading }) => heading && html.slice(heading.start, heading.end))).toEqual([
      undefined,
      '<h2>Bus</h2>',
      '<h2>Car</h2>',
    ]);
    expect(found.map(({ nth }) => nth)).toEqual([0, 0, 0]);
  });

  it('begin with every heading where several are the highest', () => {
    expect(split('<main><h1>One</h1>a<h1>Two</h1><h2>Below</h2></main>')).toEqual([
      ['One', '<h1>One</h1>'],
      ['Two', '<h1>Two</h1><h2>Below</h2>'],
    ]);
    expect(namesIn('<main><h3>One</h3><h4>Below</h4><h3>Two</h3></main>')).toEqual(['One', 'Two']);
  });

  it('do not take a first heading for the title where a higher one follows, or where it is the only one', () => {
    expect(namesIn('<main><h3>Dated</h3><h2>News</h2><h3>More</h3></main>')).toEqual(['Dated', 'News']);
    expect(namesIn('<main><p>Lead</p><h2>Only</h2><p>x</p></main>')).toEqual(['Lead', 'Only']);
    expect(split('<main><h2>Only</h2><p>x</p></main>')).toEqual([['Only', '<h2>Only</h2><p>x</p>']]);
  });

  it('are boxes as they stand, and what follows a box is a part of its own', () => {
    const html =
      '<main><h1>Moor</h1><section><h2>Bus</h2><p>Ten</p></section><p>Then</p><p>more</p><article><h2>Car</h2></article></main>';
    expect(split(html)).toEqual([
      ['Moor', '<h1>Moor</h1>'],
      ['Bus', '<section><h2>Bus</h2><p>Ten</p></section>'],
      ['Then more', '<p>Then</p><p>more</p>'],
      ['Car', '<article><h2>Car</h2></article>'],
    ]);
  });

  it('keep a box with a lesser heading below the heading it stands under', () => {
    expect(split('<main><h2>Bus</h2><div><h3>Stops</h3>Two</div><h2>Car</h2><p>x</p></main>')).toEqual([
      ['Bus', '<h2>Bus</h2><div><h3>Stops</h3>Two</div>'],
      ['Car', '<h2>Car</h2><p>x</p>'],
    ]);
    // A box is whole: the lesser one beside it begins anew.
    expect(namesIn('<main><div><h2>Bus</h2></div><div><h3>Stops</h3></div><div><h2>Car</h2></div></main>')).toEqual([
      'Bus',
      'Stops',
      'Car',
    ]);
  });

  it('hold a lesser heading behind a box as a part', () => {
    expect(split('<main><div><h2>Bus</h2></div><h3>Stops</h3><p>Two</p><div><h2>Car</h2></div></main>')).toEqual([
      ['Bus', '<div><h2>Bus</h2></div>'],
      ['Stops', '<h3>Stops</h3><p>Two</p>'],
      ['Car', '<div><h2>Car</h2></div>'],
    ]);
  });

  it('part boxes without headings from what stands before and behind them', () => {
    expect(split('<main><p>Lead</p><p>in</p><div>Box one</div><div>Box two</div><p>End</p></main>')).toEqual([
      ['Lead in', '<p>Lead</p><p>in</p>'],
      ['Box one', '<div>Box one</div>'],
      ['Box two', '<div>Box two</div>'],
      ['End', '<p>End</p>'],
    ]);
  });

  it.each(['section', 'article', 'div', 'aside', 'form', 'figure'])('know a %s as a box', (tag) => {
    const html = `<main><p>Lead</p><${tag}>One</${tag}><p>Next</p></main>`;
    // An aside is a part beside the content, and no section of it.
    expect(namesIn(html)).toEqual(tag === 'aside' ? ['Lead Next'] : ['Lead', 'One', 'Next']);
  });

  it('are told apart by their number where they have one name', () => {
    const html = '<main><h2>Day</h2><p>a</p><h2>Day</h2><p>b</p><h2>Night</h2></main>';
    const document = parsed(html);
    expect(findSections(document).map(({ name, nth }) => `${name} ${nth}`)).toEqual(['Day 0', 'Day 1', 'Night 0']);
    const second = findSectionNamed(document, { name: 'Day', nth: 1 });
    expect(second && html.slice(second.start, second.end)).toBe('<h2>Day</h2><p>b</p>');
    expect(findSectionNamed(document, { name: 'Day', nth: 2 })).toBeUndefined();
    expect(findSectionNamed(document, { name: 'Dusk', nth: 0 })).toBeUndefined();
  });

  it('are found by name below another heading too', () => {
    const html = '<main><h1>Moor</h1><h2>Bus</h2><h3>Stops</h3><p>Two</p><h2>Car</h2><p>x</p></main>';
    const found = findSectionNamed(parsed(html), { name: 'Stops', nth: 0 });
    expect(found && html.slice(found.start, found.end)).toBe('<h3>Stops</h3><p>Two</p>');
    expect(namesIn(html)).not.toContain('Stops');
  });

  it('are named by their first six words where no heading names them', () => {
    expect(namesIn('<main><p>One two three four five six</p><h2>Next</h2></main>')[0]).toBe(
      'One two three four five six',
    );
    expect(namesIn('<main><p>One two three four five six seven</p><h2>Next</h2></main>')[0]).toBe(
      'One two three four five six …',
    );
    expect(namesIn('<main><p>One</p><p>two</p><h2>Next</h2></main>')[0]).toBe('One two');
    expect(namesIn('<main><p><img src=a.png></p><h2>Next</h2></main>')[0]).toBe('Without text');
  });

  it.each(['img', 'svg', 'picture', 'video', 'iframe', 'object', 'canvas'])(
    'count a part that only shows: %s',
    (tag) => {
      expect(namesIn(`<main><div><${tag}></${tag}></div><h2>Next</h2></main>`)).toEqual(['Without text', 'Next']);
    },
  );

  it('leave out parts that hold nothing', () => {
    expect(split('<main><p> </p><hr><div> </div><h2>Next</h2><p>x</p></main>')).toEqual([
      ['Next', '<h2>Next</h2><p>x</p>'],
    ]);
  });

  it.each(['script', 'style', 'template', 'link', 'meta', 'noscript'])('do not begin or end with a %s', (tag) => {
    const unseen = ['link', 'meta'].includes(tag) ? `<${tag} itemprop=x>` : `<${tag}>x</${tag}>`;
    expect(split(`<main>${unseen}<p>Lead</p>${unseen}<h2>Next</h2><p>x</p>${unseen}</main>`)).toEqual([
      ['Lead', '<p>Lead</p>'],
      ['Next', '<h2>Next</h2><p>x</p>'],
    ]);
  });

  it('leave alone what stands around the content', () => {
    const html =
      '<main><nav>Menu</nav><h2>Bus</h2><p>a</p><aside>Beside</aside><p>b</p><h2>Car</h2><div class=comments>Said</div></main>';
    // From the first element to the last: what lies between goes along.
    expect(split(html)).toEqual([
      ['Bus', '<h2>Bus</h2><p>a</p><aside>Beside</aside><p>b</p>'],
      ['Car', '<h2>Car</h2>'],
    ]);
  });

  it('end with their own letters where an element has no end tag', () => {
    expect(split('<main><h2>Bus</h2>\n<p>Ten\n\n<h2>Car</h2>\n<p>Park\n</main>')).toEqual([
      ['Bus', '<h2>Bus</h2>\n<p>Ten'],
      ['Car', '<h2>Car</h2>\n<p>Park'],
    ]);
  });

  it('are none where the parser moved text out of its table (HTML standard, section 13.2.6.1)', () => {
    const html = '<main><h2>Bus</h2><table><h2>Fare</h2><tr><td>Two</td></tr></table><h2>Car</h2><p>x</p></main>';
    for (const [name, source] of split(html)) expect([name, source?.startsWith('<h2>')]).toEqual([name, true]);
    const found = findSections(parsed(html));
    for (const [at, { start }] of found.entries()) expect(start).toBeGreaterThanOrEqual(found[at - 1]?.end ?? 0);
  });
});

describe('wrappers', () => {
  it('around all of a main part are gone through', () => {
    const html = '<main><div><section>\n<h2>Bus</h2><p>Ten</p><h2>Car</h2></section></div></main>';
    expect(split(html)).toEqual([
      ['Bus', '<h2>Bus</h2><p>Ten</p>'],
      ['Car', '<h2>Car</h2>'],
    ]);
  });

  it('beside text of their own are parts', () => {
    expect(split('<main>Said first<div><h2>Bus</h2><h2>Car</h2></div></main>')).toEqual([
      ['Bus', '<h2>Bus</h2>'],
      ['Car', '<h2>Car</h2>'],
    ]);
    expect(split('<main>Said first<div><h2>Bus</h2><p>Ten</p></div></main>')).toEqual([
      ['Bus', '<div><h2>Bus</h2><p>Ten</p></div>'],
    ]);
  });

  it('that are no box at all hold nothing to go through', () => {
    expect(split('<main><ul><li><h2>Bus</h2> <li><h2>Car</h2></ul></main>')).toEqual([
      ['Bus Car', '<ul><li><h2>Bus</h2> <li><h2>Car</h2></ul>'],
    ]);
  });

  it('of a layout by tables are gone through down to the cell that holds the content', () => {
    const html = `<body bgcolor=white><center><table><tr><td width=100><a href=a>A</a> <a href=b>B</a></td>
<td><h1>Moor</h1><p>A long lead that says what there is to see on the moor.</p><h2>Bus</h2><p>It goes all day.</p></td></tr></table></center></body>`;
    expect(split(html)).toEqual([
      ['Moor', '<h1>Moor</h1><p>A long lead that says what there is to see on the moor.</p>'],
      ['Bus', '<h2>Bus</h2><p>It goes all day.</p>'],
    ]);
  });

  it('of a body hold most of its headings and of its text', () => {
    const lead = 'Much more text stands in here than anywhere else on this page.';
    const content = `<div><h2>Bus</h2><p>${lead}</p><h2>Car</h2><p>${lead}</p></div>`;
    expect(namesIn(`<body><div>Short</div>${content}</body>`)).toEqual(['Bus', 'Car']);
    // With half of the headings elsewhere it is not the whole.
    expect(namesIn(`<body><div><h2>One</h2><h3>Two</h3></div>${content}</body>`)).toEqual(['One', 'Bus']);
    // With half of the text elsewhere neither.
    expect(namesIn(`<body><div>${lead} ${lead} ${lead}</div>${content}</body>`)).toEqual([
      'Much more text stands in here …',
      'Bus',
    ]);
  });

  it('beside others count in a body alone', () => {
    const lead = 'Much more text stands in here than anywhere else on this page.';
    expect(namesIn(`<main><div>Short</div><div><h2>Bus</h2><p>${lead}</p><h2>Car</h2></div></main>`)).toEqual([
      'Short',
      'Bus',
    ]);
  });

  it('are no section of a page that has nothing else', () => {
    expect(split('<body><p>All there is</p></body>')).toEqual([]);
    expect(split('<main><p>All there is</p></main>')).toEqual([['All there is', '<p>All there is</p>']]);
  });
});

describe('lists of links at both ends of a body', () => {
  const body = (before: string, after = '') =>
    `<body>${before}<h1>Moor</h1><p>Lead</p><h2>Bus</h2><p>Ten</p>${after}</body>`;
  const links = '<a href=a>Up</a> <a href=b>Next</a>';

  it.each([
    ['a paragraph of links', `<p>${links}</p>`, 'Moor'],
    ['a list of links', `<ul><li>${links}</ul>`, 'Moor'],
    ['a single link', '<p><a href=a>Up</a></p>', 'Up'],
    ['links among as much text', `<p>${links} and what else there is to say</p>`, 'Up Next and what else there …'],
    ['names that lead nowhere', '<p><a name=a>Up</a> <a name=b>Next</a></p>', 'Up Next'],
    [
      'a link as long as a sentence',
      `<p>${links} <a href=c>This one says a good deal of where it leads to</a></p>`,
      'Up Next This one says a …',
    ],
    ['links with a picture', `<p>${links}<img src=a.png></p>`, 'Up Next'],
  ])('%s: the page begins with what it should', (_, before, first) => {
    expect(namesIn(body(before))[0]).toBe(first);
  });

  it('are a menu by their name, however much they say', () => {
    const said = 'where everything that there is to be seen here is told';
    const list = (attributes: string) =>
      `<ul ${attributes}><li><a href=a>Up</a> ${said}<li><a href=b>Next</a> ${said}</ul>`;
    for (const named of ['class=nav', 'id=main-menu', 'class="left sidebar"', 'class=NavBar', 'id=site_navigation'])
      expect([named, namesIn(body(list(named)))[0]]).toEqual([named, 'Moor']);
    for (const named of ['class=canvas', 'id=menus', ''])
      expect([named, namesIn(body(list(named)))[0]?.slice(0, 2)]).toEqual([named, 'Up']);
    expect(
      namesIn(body(`<div class=nav><a href=a>Up</a> ${said} <a href=b>Next</a> ${said}</div>`))[0]?.slice(0, 2),
    ).toBe('Up');
  });

  it('are left out behind the content too, and kept inside it', () => {
    expect(split(body('', `<p>${links}</p>`)).at(-1)).toEqual(['Bus', '<h2>Bus</h2><p>Ten</p>']);
    const html = body('').replace('<p>Lead</p>', `<p>Lead</p><p>${links}</p>`);
    expect(split(html)[0]).toEqual(['Moor', `<h1>Moor</h1><p>Lead</p><p>${links}</p>`]);
  });

  it('with a heading are content, unless they are lists', () => {
    expect(namesIn(body(`<div><h3>Ways</h3>${links}</div>`))[0]).toBe('Ways');
    expect(namesIn(body(`<ol><li><h3>Ways</h3><li>${links}</ol>`.replace('Ways', '<a href=c>Ways</a>')))[0]).toBe(
      'Moor',
    );
  });

  it('are parts like any other where a main part says what the content is', () => {
    expect(namesIn(`<main><p>${links}</p><h1>Moor</h1><p>Lead</p><h2>Bus</h2></main>`)[0]).toBe('Up Next');
  });

  it('are not all of a page', () => expect(split(`<body><p>${links}</p><p>${links}</p></body>`)).toEqual([]));
});

describe('parts around the content', () => {
  const partIn = (html: string) => {
    const element = [...walkElements(parsed(html).root)].find(({ attrs }) => attrs.some(({ name }) => name === 'x'));
    return element && findPartOf(element);
  };

  it.each([
    ['<nav x>', 'menu'],
    ['<ul x role=navigation>', 'menu'],
    ['<header x>', 'header'],
    ['<div x role=banner>', 'header'],
    ['<main><header x></main>', undefined],
    ['<article><header x></article>', undefined],
    ['<section><div><header x></div></section>', undefined],
    ['<main><div role=banner x></main>', 'header'],
    ['<footer x>', 'foot'],
    ['<div x role=contentinfo>', 'foot'],
    ['<article><footer x></article>', undefined],
    ['<div x class=comments>', 'comments'],
    ['<section x id=comment>', 'comments'],
    ['<form x id=respond>', 'comments'],
    ['<form x class="a comment-form">', 'comments'],
    ['<div x class=Comments>', 'comments'],
    ['<div x class=commentary>', undefined],
    ['<div x id=uncomment>', undefined],
    ['<p x class=comments>', undefined],
    ['<aside x>', 'side'],
    ['<p x role=complementary>', 'side'],
    ['<div x class=sidebar>', 'side'],
    ['<div x id=side-column>', 'side'],
    ['<div x class="left_sidebar">', 'side'],
    ['<section x class=sidebar>', undefined],
    ['<div x class=sidebars>', undefined],
    ['<div x>', undefined],
  ])('%s is %s', (html, part) => expect(partIn(html)).toBe(part));

  it('have their places, those inside another too, and only where the source has them', () => {
    const html =
      '<body><header>H<nav>N</nav></header><main>x</main><aside>S</aside><footer>F</footer><svg><footer/></svg>';
    expect(findParts(parsed(html)).map(({ part, start, end }) => [part, html.slice(start, end)])).toEqual([
      ['header', '<header>H<nav>N</nav></header>'],
      ['menu', '<nav>N</nav>'],
      ['side', '<aside>S</aside>'],
      ['foot', '<footer>F</footer>'],
    ]);
  });
});

describe('what a part is called', () => {
  it.each([
    ['<h2>Bus</h2><p>Ten', 'Bus Ten'],
    ['<h2>Bus <a href=#bus>¶</a></h2>', 'Bus'],
    ['<h2>Bus #</h2>', 'Bus'],
    ['<h2>Bus§</h2>', 'Bus'],
    ['<h2>C# ¶ stays</h2>', 'C# ¶ stays'],
    [
      `<p>${Array.from({ length: 41 }, (_, n) => n).join(' ')}`,
      `${Array.from({ length: 40 }, (_, n) => n).join(' ')} …`,
    ],
    ['', ''],
  ])('%s', (html, label) => expect(labelSection(html)).toBe(label));
});
