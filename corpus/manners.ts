/**
 * One small site written in the manner of many: the same pages and the same menu in the markup that pages have
 * had since HTML 3.2. For tests; the museum is invented.
 */

export interface MannerPage {
  readonly path: string;
  readonly title: string;
}

/** How one site writes its menu, and where. */
export interface Manner {
  readonly name: string;
  readonly files: Readonly<Record<string, string>>;
  /** Labels of the menus that are there, in order; none for sites that have none. */
  readonly menus: readonly (readonly string[])[];
  /** Kinds of what follows moves and is no menu. */
  readonly apart: readonly ('steps' | 'trail')[];
  /** On how many pages a menu stands; on all where it is not said. */
  readonly menuPages?: number;
}

export const PAGES: readonly MannerPage[] = [
  { path: 'index.html', title: 'Home' },
  { path: 'about.html', title: 'About' },
  { path: 'visit/index.html', title: 'Visit' },
  { path: 'visit/tickets.html', title: 'Tickets' },
  { path: 'news.html', title: 'News' },
  { path: 'contact.html', title: 'Contact' },
];
const TOP = PAGES.filter(({ path }) => !path.startsWith('visit/t'));
const LABELS = TOP.map(({ title }) => title);

/** As a designer writes it by hand: relative, with the file's name. */
function hrefFrom(page: string, to: string): string {
  const up = '../'.repeat(page.split('/').length - 1);
  const [folder] = page.includes('/') ? [page.slice(0, page.lastIndexOf('/') + 1)] : [''];
  return folder !== '' && to.startsWith(folder) ? to.slice(folder.length) : up + to;
}

type Here = MannerPage & { readonly href: (to: string) => string; readonly at: number };
type Write = (here: Here) => string;

function site(name: string, page: Write, menus: Manner['menus'] = [LABELS], apart: Manner['apart'] = []): Manner {
  const files = Object.fromEntries(
    PAGES.map((each, at) => [each.path, page({ ...each, at, href: (to) => hrefFrom(each.path, to) })]),
  );
  return {
    name,
    files: { ...files, 'img/logo.gif': 'GIF89a not quite', 'img/mill.jpg': 'not a picture either' },
    menus,
    apart,
  };
}

const paragraphs: Record<string, string> = {
  Home: 'Mill and marsh are open from Easter on. Dogs may come along.',
  About: 'The mill was built of tarred boards and ground barley until the sluice gave way.',
  Visit: 'From the station follow the sea wall for half an hour; the path is level.',
  Tickets: 'Tickets are sold at the door. There is a slope beside the steps.',
  News: 'The sails turn again, for the first time since the storm took one of them.',
  Contact: 'Write to the keeper, or ask at the boat shed.',
};

/** What each page says itself: a list of links in it is no menu. */
const content: Write = ({ title, href, at }) => `<h1>${title}</h1>
<p>${paragraphs[title]}</p>
<p><img src="${href('img/mill.jpg')}" alt="The mill"></p>
<h2>More about ${title.toLowerCase()}</h2>
<ul>
<li><a href="${href(PAGES[(at + 1) % 6]?.path ?? '')}">Part ${at + 1}</a>
<li><a href="${href(PAGES[(at + 2) % 6]?.path ?? '')}">Part ${at + 2}</a>
</ul>`;
const oldContent: Write = (here) =>
  content(here).replace(
    /<(\/?)(h\d|p|ul|li|a|img)\b/g,
    (_, close: string, tag: string) => `<${close}${tag.toUpperCase()}`,
  );

const html = (here: Here, body: string) => `<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>${here.title} - Saltmarsh Mill</title></head>
<body>
${body}
</body></html>
`;
const oldHtml = (here: Here, body: string) => `<HTML>
<HEAD><TITLE>${here.title} - Saltmarsh Mill</TITLE></HEAD>
<BODY BGCOLOR="#FFFFFF">
${body}
</BODY>
</HTML>
`;

const links = (here: Here, write: (page: MannerPage, href: string, isHere: boolean) => string, pages = TOP): string[] =>
  pages.map((page) => write(page, here.href(page.path), page.path === here.path));

const logo = (here: Here) =>
  `<a href="${here.href('index.html')}"><img src="${here.href('img/logo.gif')}" alt="Saltmarsh Mill"></a>`;

export const MANNERS: readonly Manner[] = [
  site('cells of a row, HTML 3.2 in capitals', (here) =>
    oldHtml(
      here,
      `<CENTER>${logo(here)}
<TABLE BORDER=0 CELLPADDING=4><TR>
${links(here, ({ title }, href, isHere) => (isHere ? `<TD><B>${title}</B></TD>` : `<TD><A HREF="${href}">${title}</A></TD>`)).join('\n<TD>|</TD>\n')}
</TR></TABLE></CENTER>
<HR>
${oldContent(here)}`,
    ),
  ),

  site('between bars, the page itself bold', (here) =>
    oldHtml(
      here,
      `<P ALIGN=CENTER>${links(here, ({ title }, href, isHere) => (isHere ? `<B>${title}</B>` : `<A HREF=${href}>${title}</A>`)).join(' | ')}</P>
${oldContent(here)}`,
    ),
  ),

  site('in brackets with hard spaces', (here) =>
    html(
      here,
      `${logo(here)}<br>
<font size="-1">[&nbsp;${links(here, ({ title }, href) => `<a href="${href}">${title}</a>`).join('&nbsp;] [&nbsp;')}&nbsp;]</font>
<hr>
${content(here)}`,
    ),
  ),

  site('between dots, bare words for the page itself', (here) =>
    html(
      here,
      `<center>${links(here, ({ title }, href, isHere) => (isHere ? title : `<a href="${href}">${title}</a>`)).join(' &middot; ')}</center>
${content(here)}`,
    ),
  ),

  site('a column of a layout’s table', (here) =>
    oldHtml(
      here,
      `<TABLE WIDTH="100%"><TR><TD WIDTH=140 VALIGN=TOP>
${links(here, ({ title }, href) => `<A HREF="${href}">${title}</A><BR>`).join('\n')}
</TD><TD VALIGN=TOP>
${oldContent(here)}
</TD></TR></TABLE>`,
    ),
  ),

  site('rows of a table', (here) =>
    html(
      here,
      `<table class="layout"><tr><td>
<table class="side">
${links(here, ({ title }, href) => `<tr><td class="dot"><img src="${here.href('img/dot.gif')}" alt=""></td><td><a href="${href}">${title}</a></td></tr>`).join('\n')}
</table>
</td><td>
${content(here)}
</td></tr></table>`,
    ),
  ),

  site('a definition list', (here) =>
    html(
      here,
      `<dl>
${links(here, ({ title, path }, href) => `<dt><a href="${href}">${title}</a></dt>${path === 'visit/index.html' ? `<dd><a href="${here.href('visit/tickets.html')}">Tickets</a></dd>` : ''}`).join('\n')}
</dl>
${content(here)}`,
    ),
  ),

  site('boxes in boxes', (here) =>
    html(
      here,
      `<div id="top">${logo(here)}</div>
<div class="x1"><div class="x2">
${links(here, ({ title }, href, isHere) => `  <div class="entry${isHere ? ' active' : ''}"><div class="inner"><a href="${href}"><span>${title}</span></a></div></div>`).join('\n')}
</div></div>
<div class="text">
${content(here)}
</div>`,
    ),
  ),

  site('a numbered list without end tags', (here) =>
    oldHtml(
      here,
      `<OL>
${links(here, ({ title }, href) => `<LI><A HREF='${href}'>${title}</A>`).join('\n')}
</OL>
${oldContent(here)}`,
    ),
  ),

  site(
    'a list with heads that lead nowhere',
    (here) =>
      html(
        here,
        `<header>${logo(here)}<div class="bar"><ul class="drop">
<li><a href="${here.href('index.html')}">Home</a></li>
<li class="has"><button type="button" aria-expanded="false">The museum</button><ul class="below"><li><a href="${here.href('about.html')}">About</a></li><li><a href="${here.href('news.html')}">News</a></li></ul></li>
<li class="has"><a href="#" class="toggle">Plan</a><div class="below"><a href="${here.href('visit/index.html')}">Visit</a><a href="${here.href('visit/tickets.html')}">Tickets</a></div></li>
<li><a href="${here.href('contact.html')}">Contact</a></li>
</ul></div></header>
${content(here)}`,
      ),
    [['Home', 'The museum', 'Plan', 'Contact']],
  ),

  site('a tree that shows the open branch', (here) =>
    html(
      here,
      `<div class="columns"><ul class="tree">
${links(here, ({ title, path }, href, isHere) => {
  const opens = path === 'visit/index.html' && here.path.startsWith('visit/');
  const below = opens
    ? `<ul><li><a href="${here.href('visit/tickets.html')}">Tickets</a></li></ul>`
    : path === here.path
      ? `<ul><li><a href="${href}#more">More about it</a></li></ul>`
      : '';
  return `<li${isHere ? ' class="here"' : ''}><a href="${href}">${title}</a>${below}</li>`;
}).join('\n')}
</ul><div>
${content(here)}
</div></div>`,
    ),
  ),

  site(
    'a list with bars in it, a trail and steps beside',
    (here) =>
      html(
        here,
        `<ul class="flat">
${links(here, ({ title }, href, isHere) => `<li><a href="${href}">${title}</a>${title === 'Contact' ? '' : ' |'}</li>${isHere ? '' : ''}`).join('\n')}
</ul>
<p class="trail"><a href="${here.href('index.html')}">Home</a> &raquo; ${here.path.startsWith('visit/t') ? `<a href="${here.href('visit/index.html')}">Visit</a> &raquo; ` : `<a href="${here.href(PAGES[(here.at + 3) % 6]?.path ?? '')}">Kept</a> &raquo; `}<b>${here.title}</b></p>
${content(here)}
<table><tr><td><a href="${here.href(PAGES[(here.at + 5) % 6]?.path ?? '')}">Previous</a></td><td><a href="${here.href(PAGES[(here.at + 1) % 6]?.path ?? '')}">Next</a></td></tr></table>`,
      ),
    [LABELS],
    ['steps', 'steps'],
  ),

  site(
    'a landmark with a class for the page itself',
    (here) =>
      html(
        here,
        `<header><nav aria-label="Main"><ul>
${links(here, ({ title }, href, isHere) => `<li class="tab${isHere ? ' tab-current' : ''}"><a href="${href}">${title}</a></li>`).join('\n')}
</ul></nav></header>
<main>
${content(here)}
</main>
<footer><p><a href="${here.href('contact.html')}">Write to us</a> · <a href="${here.href('about.html')}">Who we are</a></p></footer>`,
      ),
    [LABELS, ['Write to us', 'Who we are']],
  ),

  framed(),
];

/** The menu of a site with frames stands in one page alone, and the others have none. */
function framed(): Manner {
  const plain = site('frames', (here) => oldHtml(here, oldContent(here)), [LABELS]);
  const menu = `<HTML><HEAD><TITLE>Menu</TITLE><BASE TARGET="main"></HEAD><BODY>\n${TOP.map(({ path, title }) => `<A HREF="${path === 'index.html' ? 'welcome.html' : path}">${title}</A><BR>`).join('\n')}\n</BODY></HTML>\n`;
  return {
    ...plain,
    menuPages: 1,
    files: {
      ...plain.files,
      'menu.html': menu,
      'welcome.html': plain.files['index.html'] ?? '',
      'index.html':
        '<HTML><HEAD><TITLE>Saltmarsh Mill</TITLE></HEAD>\n<FRAMESET COLS="160,*">\n<FRAME SRC="menu.html" NAME="menu">\n<FRAME SRC="welcome.html" NAME="main">\n<NOFRAMES><BODY><A HREF="welcome.html">Come in</A></BODY></NOFRAMES>\n</FRAMESET>\n</HTML>\n',
    },
  };
}
