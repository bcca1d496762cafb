/** The words of the demo site. Everything in it is invented. */

export interface DemoPage {
  /** Folder of the page; empty for the front page. */
  readonly path: string;
  readonly lang: 'en' | 'cy';
  readonly title: string;
  readonly description?: string;
  readonly picture?: { readonly name: string; readonly alt?: string };
  readonly date?: string;
  /** Paragraphs; one that starts with `## ` is a heading, with `- ` a list, with `<` stands as it is. */
  readonly body: readonly string[];
}

const page = (
  path: string,
  title: string,
  description: string,
  body: readonly string[],
  more: Partial<DemoPage> = {},
): DemoPage => ({
  path,
  lang: path === 'cy' || path.startsWith('cy/') ? 'cy' : 'en',
  title,
  description,
  body,
  ...more,
});

export const PAGES: readonly DemoPage[] = [
  page('', 'Our new site opens soon', 'The new site of Lanternmoor Observatory opens soon.', [
    'The new site of the observatory is finished and waits for its day. Until then, the <a href="/welcome/">new front page</a> is ready to be read.',
  ]),
  page(
    'welcome',
    'Lanternmoor Observatory',
    'A small public observatory on a dark moor: open nights, a working refractor, and a warm room to wait for the clouds to part.',
    [
      'On the highest road of the moor, under one of the darkest skies a bus can take you to, stands a small dome that has been open to everyone since it was built.',
      '## This week',
      'Open nights are Thursday to Saturday from dusk. If it is cloudy we show you round the dome by day rates and you come back for nothing.',
      '<p><a class="button" href="/visit/opening-times/">Opening times and prices</a> <a class="button" href="/sky-tonight/">What is up tonight</a></p>',
      '## From the journal',
      '- <a href="/journal/transit-of-mercury/">Transit of Mercury</a>',
      '- <a href="/journal/new-shutter/">The dome has a new shutter</a>',
    ],
    { picture: { name: 'dome-at-night', alt: 'The dome under a starry sky' } },
  ),
  page(
    'visit',
    'Visit',
    'How to spend an evening at the observatory: times, prices, the way here, and what to bring.',
    [
      'An evening with us takes about two hours. You need no booking, no telescope and no knowledge, only a coat warmer than you think.',
      '- <a href="opening-times/">Opening times and prices</a>',
      '- <a href="getting-here/">Getting here</a>',
      '- <a href="telescope-hire/">Telescope hire</a>',
      '- <a href="groups/">Groups and schools</a>',
      '- <a href="access/">Access</a>',
    ],
    { picture: { name: 'moor-at-dusk', alt: 'The moor at dusk' } },
  ),
  page(
    'visit/opening-times',
    'Opening times and prices',
    'Open Thursday to Saturday from dusk; adults 9.50, children 5.00, under fives free.',
    [
      '<table><tr><th>Who</th><th>Evening</th><th>Day tour</th></tr><tr><td>Adult</td><td>9.50</td><td>6.00</td></tr><tr><td>Child, 5 to 16</td><td>5.00</td><td>3.00</td></tr><tr><td>Under fives</td><td>free</td><td>free</td></tr></table>',
      'The doors open half an hour after sunset. From May to July it hardly gets dark; then we open the solar terrace instead, from eleven in the morning.',
      'The <a href="/documents/visitor-guide.pdf">visitor guide</a> (PDF) has the calendar for the whole year.',
    ],
  ),
  page(
    'visit/getting-here',
    'Getting here',
    'By bus 41 from the market square, by bicycle on the moor track, or by car to the lower gate.',
    [
      'By bus 41 from the market square, by bicycle on the moor track, or by car to the lower gate.',
      '## By bus and train',
      'Bus 41 meets the trains at Lower Lantern and stops at the gate. The last one back leaves at 23:10, and the driver waits when the queue at the telescope is long.',
      '## By car',
      'Dip your lights after the cattle grid: from there on you are in somebody’s photograph.',
    ],
  ),
  page(
    'visit/telescope-hire',
    'Telescope hire',
    'Take a small telescope home for a week, with a map and an hour of help.',
    [
      'A six-inch reflector for a week costs 30.00, with a star map and an hour of help before you take it home. Bring a blanket for the back seat.',
    ],
  ),
  page('visit/groups', 'Groups and schools', 'Groups of up to forty, by day or by night, with a supper on request.', [
    'Groups of up to forty are welcome on any night we are not open to the public. There is a <a href="/visit/picnic/">picnic field</a> behind the dome and a stove in the hut.',
    'Teachers will want the page on <a href="/learn/workshops/primary/">primary workshops</a>.',
  ]),
  page(
    'visit/access',
    'Access',
    'Step-free to the warm room and the terrace; eleven steps to the dome, and a camera for those who stay below.',
    [
      'The warm room, the terrace and the toilets are step-free. The dome has eleven steps; a camera at the eyepiece shows the view on a screen below.',
      'From the bus stop it is forty metres on gravel; the <a href="/visit/getting-here/#gravel">way from the gate</a> says more.',
    ],
  ),
  page(
    'sky-tonight',
    'Sky tonight',
    'What can be seen from the moor this month, with the naked eye and through our refractor.',
    [
      'The winter triangle stands high by ten. Through the refractor we shall look at the great cluster first, because it never disappoints, and then at whatever you ask for.',
      '- <a href="moon/">The Moon</a>',
      '- <a href="planets/">Planets</a>',
    ],
  ),
  page(
    'sky-tonight/moon',
    'The Moon',
    'Phases of the Moon and which nights are dark.',
    [
      'The darkest nights are those around the new Moon. Around the first quarter, shadows in the craters are at their longest and photographs at their best.',
    ],
    { picture: { name: 'moon', alt: 'The full Moon' } },
  ),
  page('sky-tonight/planets', 'Planets', 'Where the planets are this season and when to come for them.', [
    'Come early for Venus, late for Saturn, and any time for Jupiter, which keeps its four moons in a different order every night.',
  ]),
  page('learn', 'Learn', 'Workshops for schools, lectures in winter, star parties in autumn.', [
    'We teach what can be seen. Every course ends outside.',
    '- <a href="workshops/primary/">Primary workshops</a>',
    '- <a href="workshops/secondary/">Secondary workshops</a>',
    '- <a href="star-party/">Star party</a>',
    '- <a href="meteorites/">Meteorites you may hold</a>',
  ]),
  page(
    'learn/workshops/primary',
    'Primary workshops',
    'A morning of making sundials, craters and a solar system as long as the car park.',
    [
      'A morning of making: sundials from card, craters from flour, and a solar system as long as the car park. For classes of up to thirty.',
    ],
    { picture: { name: 'workshop', alt: 'Children at a long table' } },
  ),
  page(
    'learn/workshops/secondary',
    'Secondary workshops',
    'Measure the speed of light with a moon of Jupiter; a full day with instruments.',
    [
      'Pupils time a moon of Jupiter as it goes into shadow, and from four evenings of such times reckon the speed of light. The best class so far was out by three percent.',
      'Please fill in the <a href="/documents/risk-assessment.docx">risk assessment</a> (Word) before you come.',
    ],
  ),
  page(
    'learn/star-party',
    'Star party',
    'Three nights of telescopes in a field, in October.',
    [
      'Three nights in October: bring a telescope, or look through somebody else’s. Red lights only after dusk. The soup is free for those who can name six constellations.',
      'Places are kept for those who <a href="https://staging.lanternmoor.example/book/star-party">put their name down</a>.',
    ],
    { picture: { name: 'star-party', alt: 'People in a dark field with telescopes' } },
  ),
  page('learn/meteorites', 'Meteorites you may hold', 'Five meteorites on a table, and gloves.', [
    'Lorem ipsum dolor sit amet, consectetur adipiscing elit, sed do eiusmod tempor incididunt ut labore et dolore magna aliqua.',
    'Five meteorites lie on a table in the warm room. You may hold all of them, with gloves.',
  ]),
  page('observatory', 'The observatory', 'The dome, its refractor, the solar terrace and the dark moor around them.', [
    'The dome turns on thirty-two wheels and one of us pushing.',
    '- <a href="refractor/">The refractor</a>',
    '- <a href="solar-terrace/">The solar terrace</a>',
    '- <a href="dark-sky/">The dark sky</a>',
  ]),
  page(
    'observatory/refractor',
    'The refractor',
    'A ten-inch refractor with a clockwork drive, wound every two hours.',
    [
      'A ten-inch lens in a brass tube four metres long, driven by a clockwork that has to be wound every two hours. Nobody has ever dared to fit a motor.',
    ],
    { picture: { name: 'refractor' } },
  ),
  page(
    'observatory/solar-terrace',
    'The solar terrace',
    'Safe looks at the Sun, every clear day from May to July.',
    ['Two filtered telescopes and a bench. You see spots, sometimes a flare, and always how quiet people become.'],
    { picture: { name: 'solar-terrace', alt: 'A telescope on a terrace in the sun' } },
  ),
  page(
    'observatory/dark-sky',
    'The dark sky',
    'How dark it is on the moor, how we measure it, and what the villages did about their lamps.',
    [
      'A meter on the roof has measured the sky every minute for nine years. Since the villages turned their lamps down at eleven, the Milky Way casts a shadow again.',
      '<p class="faint">Measured in magnitudes for each square second of arc, at midnight and without the Moon.</p>',
    ],
  ),
  page('journal', 'Journal', 'News from the dome, when there is any.', [
    '- <a href="transit-of-mercury/">Transit of Mercury</a>',
    '- <a href="new-shutter/">The dome has a new shutter</a>',
    '- <a href="perseids/">Ninety Perseids in an hour</a>',
    '- <a href="noctilucent-clouds/">Noctilucent clouds</a>',
    '- <a href="occultation/">A star goes out</a>',
    '- <a href="winter-lectures/">Winter lectures</a>',
    '- <a href="volunteer-day/">Volunteer day</a>',
    '- <a href="welsh-pages/">Our pages in Welsh</a>',
  ]),
  page(
    'journal/transit-of-mercury',
    'Transit of Mercury',
    'A small black disc crossed the Sun, and two hundred people watched it from the terrace.',
    [
      'A small black disc crossed the Sun, and two hundred people watched it from the terrace. It took seven hours; nobody left before lunch.',
    ],
    { date: '2025-11-11', picture: { name: 'transit', alt: 'A small dark disc before the Sun' } },
  ),
  page(
    'journal/new-shutter',
    'The dome has a new shutter',
    'After forty years the shutter of the dome opens without a crowbar.',
    ['After forty years the shutter opens without a crowbar. The old one is to become a bench.'],
    { date: '2026-03-02' },
  ),
  page(
    'journal/perseids',
    'Ninety Perseids in an hour',
    'The best count since we started counting.',
    ['Ninety in the hour after two in the morning, counted by eleven people lying in a circle.'],
    { date: '2026-08-13', picture: { name: 'perseids', alt: 'Meteors over the moor' } },
  ),
  page(
    'journal/noctilucent-clouds',
    'Noctilucent clouds',
    'Silver clouds at midnight, eighty kilometres up.',
    ['Silver clouds stood over the north at midnight, eighty kilometres up. The swifts were still flying.'],
    { date: '2026-06-24', picture: { name: 'noctilucent', alt: 'Bright clouds at night' } },
  ),
  page(
    'journal/occultation',
    'A star goes out',
    'An asteroid covered a star for four seconds, and we saw it.',
    ['For four seconds an asteroid nobody can see covered a star everybody can. Our timing goes into its orbit.'],
    { date: '2026-01-19' },
  ),
  page(
    'journal/winter-lectures',
    'Winter lectures',
    'Six lectures on Tuesdays, with soup.',
    ['Six Tuesdays, six lectures, soup. The <a href="/documents/lectures.pdf">programme</a> (PDF) is out.'],
    { date: '2025-12-01' },
  ),
  page(
    'journal/volunteer-day',
    'Volunteer day',
    'Paint, hinges, one hundred and forty metres of fence.',
    ['Paint, hinges, one hundred and forty metres of fence. Thank you.'],
    { date: '2026-04-18' },
  ),
  page(
    'journal/welsh-pages',
    'Our pages in Welsh',
    'The most asked-for pages can now be read in Welsh.',
    ['The pages people ask for most can now be read <a href="/cy/" lang="cy">in Welsh</a>.'],
    { date: '2026-02-27' },
  ),
  page('about', 'About us', 'Who runs the observatory, since when, and how to reach us.', [
    'The observatory belongs to a trust with nine trustees and a hundred and twelve friends.',
    '- <a href="people/">People</a>',
    '- <a href="history/">History</a>',
    '- <a href="contact/">Contact</a>',
    '- <a href="privacy/">Privacy</a>',
  ]),
  page('about/people', 'People', 'The keeper of the dome, the teacher, the treasurer, and the cat.', [
    'A keeper, a teacher, a treasurer, thirty volunteers, and a cat called Parallax.',
  ]),
  {
    path: 'about/history',
    lang: 'en',
    title: 'History',
    body: [
      'The dome was bought from a seaside pier, carried up the moor on two hay carts, and opened on a cloudy night.',
    ],
  },
  page('about/contact', 'Contact', 'Telephone, post and the way to the gate.', [
    'Write to <a href="mailto:dome@lanternmoor.example">dome@lanternmoor.example</a>. In the evening nobody hears the telephone.',
    'The gate is <a href="https://maps.example/lanternmoor-gate" target="_blank">on the map</a>.',
  ]),
  page('about/privacy', 'Privacy', 'What we keep about visitors to this site: nothing.', [
    'This site sets no cookies and counts nobody.',
  ]),
  page(
    'cy',
    'Arsyllfa Lanternmoor',
    'Arsyllfa gyhoeddus fach ar y rhos.',
    [
      'Croeso. Ar ffordd uchaf y rhos, dan un o’r awyrau tywyllaf y gall bws fynd â chi iddi, saif cromen fach sydd ar agor i bawb.',
      '- <a href="ymweld/">Ymweld</a>',
      '- <a href="awyr-heno/">Awyr heno</a>',
      '- <a href="dysgu/">Dysgu</a>',
      '- <a href="amdanom/">Amdanom ni</a>',
    ],
    { picture: { name: 'dome-at-night', alt: 'Y gromen dan y sêr' } },
  ),
  page('cy/ymweld', 'Ymweld', 'Sut i dreulio noson yn yr arsyllfa.', [
    'Mae noson gyda ni yn cymryd tua dwy awr. Dewch â chot gynnes.',
    '- <a href="amseroedd/">Amseroedd agor a phrisiau</a>',
    '- <a href="cyrraedd/">Sut i gyrraedd</a>',
  ]),
  page('cy/ymweld/amseroedd', 'Amseroedd agor a phrisiau', 'Ar agor nos Iau i nos Sadwrn o’r cyfnos.', [
    'Ar agor nos Iau i nos Sadwrn, hanner awr ar ôl machlud haul. Oedolion 9.50, plant 5.00.',
  ]),
  page('cy/ymweld/cyrraedd', 'Sut i gyrraedd', 'Bws 41 o sgwâr y farchnad, neu ar feic dros y rhos.', [
    'Daliwch fws 41 o sgwâr y farchnad, neu dewch ar feic dros y rhos. Mae’r bws olaf yn ôl am 23:10.',
  ]),
  page(
    'cy/awyr-heno',
    'Awyr heno',
    'Beth sydd i’w weld o’r rhos y mis hwn.',
    ['Mae triongl y gaeaf yn uchel erbyn deg o’r gloch.'],
    { picture: { name: 'moon', alt: 'Y lleuad lawn' } },
  ),
  page('cy/dysgu', 'Dysgu', 'Gweithdai i ysgolion a nosweithiau sêr.', [
    'Rydym yn dysgu’r hyn y gellir ei weld. Mae pob cwrs yn gorffen y tu allan.',
  ]),
  page('cy/amdanom', 'Amdanom ni', 'Pwy sy’n cadw’r arsyllfa.', [
    'Ymddiriedolaeth fach sydd biau’r arsyllfa.',
    '- <a href="cysylltu/">Cysylltu</a>',
  ]),
  page('cy/amdanom/cysylltu', 'Cysylltu', 'Sut i gysylltu â ni.', [
    'Ysgrifennwch at <a href="mailto:dome@lanternmoor.example">dome@lanternmoor.example</a>.',
  ]),
];
