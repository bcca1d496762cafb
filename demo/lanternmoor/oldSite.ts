/**
 * The old site as its host still answers: what stands at each of its addresses. Scripts with numbers, a
 * news archive, a gallery, a shop that closed; some of it no page leads to any more. All of it invented.
 */
import { NEWS } from './oldAddresses.ts';

export interface OldPage {
  readonly address: string;
  readonly title: string;
  readonly body: readonly string[];
  /** Addresses the page links to, below those every page has. */
  readonly links: readonly string[];
}

const page = (address: string, title: string, body: string, links: readonly string[] = []): OldPage => ({
  address,
  title,
  body: [body],
  links,
});

/** `/page.php?id=`, from 1. */
const NUMBERED: readonly (readonly [title: string, body: string])[] = [
  [
    'About the observatory',
    'A charity has kept two domes and a hut on the moor since 1931. It is open to everybody who likes the dark.',
  ],
  ['The big telescope', 'The refractor has a lens of six inches and a tube as long as a rowing boat.'],
  ['What can I see tonight?', 'A short list for the naked eye, written anew on the first of the month.'],
  ['How to find us', 'By bus to the crossroads, then along the track with a torch. There is room for twelve cars.'],
  ['Opening hours', 'Every clear Friday and Saturday from an hour after sunset.'],
  ['Prices', 'Adults pay six, children three, members nothing.'],
  ['Groups and school visits', 'Classes come by day for the Sun and by night for the rest. Write two weeks ahead.'],
  ['Wheelchairs and prams', 'The path to the terrace is level. The dome has nine steps and no lift.'],
  ['The trustees', 'Seven people answer for the money and the roof.'],
  ['Who works here', 'A warden, two guides and thirty volunteers.'],
  ['History of the house', 'It began with a schoolmaster, a lens from a sale and a shed that faced south.'],
  ['Looking at the Sun', 'On the terrace three small telescopes show the Sun safely from April to September.'],
  ['Why it is so dark here', 'The next street lamp is eleven miles away, and the parish means to keep it so.'],
  ['Hire a telescope', 'A small reflector for a fortnight, with a lesson before it leaves the house.'],
  ['Meteorites to hold', 'Four stones that fell from the sky may be taken into the hand.'],
  ['Winter lectures', 'Six Thursdays with a stove, a speaker and tea.'],
  ['Become a member', 'Members come in free and get the sheet for the month by post.'],
  ['Volunteering', 'Hands are needed for the car park, the stove and the slides.'],
  ['Primary school workshop', 'Children make a sundial and take it home.'],
  ['Secondary school workshop', 'Pupils measure a mountain on the Moon by its shadow.'],
  ['The Moon this month', 'Phases and the hours when she rises behind the hut.'],
  ['Planets this month', 'Which are up, which are behind the hill.'],
  ['Weddings in the dome', 'No longer offered, with thanks to the four couples.'],
  ['The weather mast', 'Wind and temperature were shown here until the mast came down.'],
  ['Newsletter', 'The letter goes out four times a year.'],
  ['Your data and us', 'What we keep of visitors and for how long.'],
  ['Contact', 'Telephone in the evening, post by day.'],
  ['Lost and found', 'Gloves, mostly left ones.'],
  ['Star party', 'One weekend in September with tents on the lower field.'],
  ['Thank you', 'Your message has been sent to the warden.'],
];

const VISIT: Readonly<Record<number, readonly [title: string, body: string]>> = {
  3: ['Visiting', 'What to bring: a torch with a red light, a hat, and time.'],
  7: ['Opening times and prices', 'Clear Fridays and Saturdays; six for adults, three for children.'],
  12: ['Getting here', 'The track begins behind the chapel.'],
  15: ['Groups', 'For ten people or more there is a guide of your own.'],
  4: ['Access', 'Level to the terrace, nine steps to the dome.'],
  9: ['Telescope hire', 'A reflector for a fortnight.'],
};

const EVENTS = [
  'Open dome',
  'Moon walk',
  'Perseid watch',
  'Sun day',
  'Children’s evening',
  'Saturn at its best',
  'Lecture: dust',
  'Lecture: tides',
  'Lecture: old clocks',
  'Star party',
  'Volunteers’ supper',
  'Eclipse morning',
  'Geminid watch',
  'Longest night',
];
const SUBJECTS = [
  'Dome at dusk',
  'The hut under snow',
  'Moon over the track',
  'Visitors on the terrace',
  'The refractor',
  'Star trails',
  'A red evening',
];
const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

const newsTitle = (name: string): string => {
  const words = name.slice(name.lastIndexOf('/') + 1).replaceAll('-', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
};
const newsOf = (year: string): string[] =>
  NEWS.filter((name) => name.startsWith(`${year}/`)).map((name) => `/news/${name}.html`);
const years = Array.from({ length: 14 }, (_, index) => String(2012 + index));
const numbered = (from: number, to: number): string[] =>
  Array.from({ length: to - from + 1 }, (_, index) => `/page.php?id=${from + index}`);
const photo = (n: number): string => `/gallery/photo.asp?n=${n}`;

/** What every page links to at its top. */
export const OLD_NAVIGATION: readonly (readonly [label: string, address: string])[] = [
  ['Home', '/index.php'],
  ['Visiting', '/visit.php?id=3'],
  ['Sky tonight', '/sky/tonight.php'],
  ['News', '/news/2025/'],
  ['Schools', '/schools/index.htm'],
  ['Gallery', '/gallery/index.asp'],
  ['The telescope', '/telescope/refractor.html'],
  ['About us', '/about-us/'],
  ['Cymraeg', '/cymraeg/'],
];

export function oldPages(): OldPage[] {
  return [
    page('/', 'Lanternmoor Observatory', 'Two domes and a hut on the moor. When it is clear we are open.', [
      '/visit.php?id=7',
      '/visit.php?id=12',
      ...numbered(1, 16),
      '/links.html',
    ]),
    ...Object.entries(VISIT).map(([id, [title, body]]) =>
      page(
        `/visit.php?id=${id}`,
        title,
        body,
        Object.keys(VISIT).map((other) => `/visit.php?id=${other}`),
      ),
    ),
    ...NUMBERED.map(([title, body], index) =>
      page(`/page.php?id=${index + 1}`, title, body, index < 16 ? ['/page.php?id=1', `/page.php?id=${index + 2}`] : []),
    ),
    ...NEWS.map((name) =>
      page(
        `/news/${name}.html`,
        newsTitle(name),
        `From the journal of ${name.slice(0, 4)}: ${newsTitle(name).toLowerCase()}.`,
        [`/news/${name.slice(0, 4)}/`],
      ),
    ),
    ...years.map((year) =>
      page(`/news/${year}/`, `News of ${year}`, `What happened on the moor in ${year}.`, [
        ...newsOf(year),
        ...(year === '2012' ? [] : [`/news/${Number(year) - 1}/`]),
      ]),
    ),
    page('/schools/index.htm', 'Schools', 'What a class can do here, by day and by night.', [
      '/schools/ks2-workshop.htm',
      '/schools/ks3-workshop.htm',
      '/schools/booking.htm',
      '/schools/risk.doc',
      '/schools/teachers%20pack.pdf',
    ]),
    page('/schools/ks2-workshop.htm', 'Workshop for ages 7 to 11', 'Sundials of card and string.'),
    page('/schools/ks3-workshop.htm', 'Workshop for ages 11 to 14', 'A mountain on the Moon and its shadow.'),
    page('/schools/booking.htm', 'Booking for schools', 'Two dates to choose from, and how many children.'),
    page('/gallery/index.asp', 'Gallery', 'Pictures by volunteers and visitors.', [photo(1), photo(2), photo(3)]),
    ...Array.from({ length: 35 }, (_, index) =>
      page(
        photo(index + 1),
        `${SUBJECTS[index % SUBJECTS.length]}, picture ${index + 1}`,
        `Picture ${index + 1} of 35.`,
        index < 34 ? [photo(index + 2), '/gallery/index.asp'] : ['/gallery/index.asp'],
      ),
    ),
    page('/shop/', 'Shop', 'The shop is closed. Maps and mugs are sold at the door.', [
      '/shop/maps/',
      '/shop/mugs/',
      '/shop/telescopes/hire',
      '/shop/telescopes/six-inch',
      '/shop/basket.php',
    ]),
    page('/shop/telescopes/hire', 'Hire from the shop', 'A fortnight with a reflector.'),
    page('/shop/telescopes/six-inch', 'Six-inch reflector', 'Sold out.'),
    page('/shop/maps/', 'Maps', 'The sky by season, on card.'),
    page('/shop/mugs/', 'Mugs', 'With the dome on them.'),
    page(
      '/about-us/',
      'About us',
      'Who keeps the house.',
      ['trustees', 'history', 'contact', 'friends', 'people', 'privacy'].map((name) => `/about-us/${name}.html`),
    ),
    page('/about-us/trustees.html', 'Trustees', 'Seven of them.'),
    page('/about-us/history.html', 'Our history', 'From a shed to two domes in ninety years.'),
    page('/about-us/contact.html', 'How to reach us', 'Telephone in the evening.'),
    page('/about-us/friends.html', 'Friends of the observatory', 'They pay for the roof.'),
    page('/about-us/people.html', 'People', 'A warden, two guides, thirty volunteers.'),
    page('/about-us/privacy.html', 'Privacy', 'What is kept and for how long.'),
    page('/sky/tonight.php', 'Sky tonight', 'What is up after dark.', [
      '/sky/moon.php',
      '/sky/planets.php',
      ...MONTHS.map((_, index) => `/sky/month.php?m=${index + 1}`),
    ]),
    page('/sky/moon.php', 'The Moon', 'Her phases, and when she rises.'),
    page('/sky/planets.php', 'The planets', 'Which are up and when.'),
    ...MONTHS.map((name, index) => page(`/sky/month.php?m=${index + 1}`, `The sky in ${name}`, `What ${name} brings.`)),
    page('/cymraeg/', 'Croeso', 'Arsyllfa ar y rhos. Pan fydd yn glir, rydym ar agor.', [
      '/cymraeg/ymweld.htm',
      '/cymraeg/oriau.htm',
      '/cymraeg/awyr.htm',
      '/cymraeg/cysylltu.htm',
    ]),
    page('/cymraeg/ymweld.htm', 'Ymweld', 'Dewch â fflachlamp goch a het.'),
    page('/cymraeg/oriau.htm', 'Oriau agor', 'Nos Wener a nos Sadwrn, os yw’n glir.'),
    page('/cymraeg/awyr.htm', 'Awyr heno', 'Beth sydd i’w weld heno.'),
    page('/cymraeg/cysylltu.htm', 'Cysylltu', 'Ffoniwch gyda’r nos.'),
    page(
      '/telescope/refractor.html',
      'The refractor',
      'Six inches of glass, a hundred years old.',
      ['clockwork', 'solar', 'dark-skies', 'dome'].map((name) => `/telescope/${name}.html`),
    ),
    page('/telescope/clockwork.html', 'The clockwork drive', 'A weight on a chain turns the tube with the sky.'),
    page('/telescope/solar.html', 'Looking at the Sun', 'Three small telescopes on the terrace.'),
    page('/telescope/dark-skies.html', 'The dark sky', 'Eleven miles to the next lamp.'),
    page('/telescope/dome.html', 'The dome', 'It turns by hand, and sometimes not.'),
    page('/telescope/webcam.html', 'Webcam', 'Switched off.'),
    ...EVENTS.map((title, index) =>
      page(`/events/event.php?event=${100 + (index + 1) * 7}`, title, `${title}, on a clear evening.`),
    ),
    page('/links.html', 'Links', 'Other people who look up.', [
      '/visit/',
      '/rss.xml',
      '/search.php?q=moon',
      '/guestbook.cgi',
      '/downloads/guide2019.pdf',
      '/downloads/map.gif',
    ]),
  ];
}

const base64 = (text: string): string => Buffer.from(text, 'latin1').toString('base64');

function oldFiles() {
  // The smallest whole documents of their kinds.
  const pdf = (words: string) =>
    base64(
      `%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 420 595]>>endobj\n% ${words}\ntrailer<</Root 1 0 R>>\n%%EOF\n`,
    );
  const gif = 'R0lGODlhAQABAIAAAP///wAAACwAAAAAAQABAAACAkQBADs=';
  const feed = [
    '<?xml version="1.0"?>',
    '<rss version="2.0"><channel><title>Lanternmoor Observatory</title><link>http://lanternmoor.example/</link><description>News</description>',
    ...newsOf('2025').map(
      (address) =>
        `<item><title>${newsTitle(address.replace('.html', ''))}</title><link>http://lanternmoor.example${address}</link></item>`,
    ),
    '</channel></rss>',
    '',
  ].join('\n');
  return [
    { address: '/downloads/guide2019.pdf', type: 'application/pdf', base64: pdf('Guide of 2019') },
    { address: '/downloads/lectures2017.pdf', type: 'application/pdf', base64: pdf('Lectures of 2017') },
    { address: '/schools/teachers%20pack.pdf', type: 'application/pdf', base64: pdf('Teachers pack') },
    { address: '/schools/risk.doc', type: 'application/msword', base64: base64('\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1') },
    { address: '/downloads/map.gif', type: 'image/gif', base64: gif },
    { address: '/rss.xml', type: 'application/rss+xml', base64: base64(feed) },
  ];
}

/** As JSON for the host that plays it. */
export function oldSite(): string {
  return `${JSON.stringify(
    {
      name: 'Lanternmoor Observatory',
      domain: 'lanternmoor.example',
      navigation: OLD_NAVIGATION,
      pages: oldPages(),
      // `/index.php` is the same page as `/`; the others were moved years ago.
      sameAs: { '/index.php': '/' },
      moved: {
        '/visit/': '/visit.php?id=3',
        '/about/contact/': '/about-us/contact.html',
        '/telescope/': '/telescope/refractor.html',
      },
      files: oldFiles(),
      broken: ['/guestbook.cgi'],
      robots: [
        'User-agent: *',
        'Disallow: /search.php',
        'Disallow: /shop/basket.php',
        'Disallow: /shop/checkout.php',
        '',
      ].join('\n'),
    },
    undefined,
    1,
  )}\n`;
}
