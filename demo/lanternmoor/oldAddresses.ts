/**
 * The old site's addresses as a search index might still list them, with last year's visits: a
 * script with numbers, a news archive by year and month, a shop long closed, and stray files.
 */

interface Group {
  readonly addresses: readonly string[];
  /** Visits of the most visited one; each next has a little less. */
  readonly most: number;
}

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

export const NEWS = [
  '2012/10/first-light-again',
  '2013/02/ice-on-the-dome',
  '2013/08/perseids-from-the-terrace',
  '2014/05/mars-closest',
  '2014/11/new-hut-roof',
  '2015/03/eclipse-morning',
  '2015/09/red-moon',
  '2016/05/mercury-transit',
  '2016/10/star-party-report',
  '2017/01/lectures-programme',
  '2017/06/silver-clouds',
  '2017/11/dome-motor-fails',
  '2018/02/snowed-in',
  '2018/07/volunteers-wanted',
  '2019/01/lunar-eclipse',
  '2019/11/mercury-again',
  '2020/03/closed-for-now',
  '2020/07/comet-over-the-moor',
  '2021/05/open-again',
  '2022/08/darkest-night',
  '2023/04/fence-finished',
  '2024/01/asteroid-covers-star',
  '2024/05/aurora-over-the-hut',
  '2025/02/new-trustees',
];

const GROUPS: readonly Group[] = [
  {
    addresses: [
      '/index.php',
      '/visit.php?id=3',
      '/visit.php?id=7',
      '/visit.php?id=12',
      '/visit.php?id=15',
      '/visit.php?id=4',
      '/visit.php?id=9',
    ],
    most: 1840,
  },
  { addresses: range(1, 30).map((id) => `/page.php?id=${id}`), most: 690 },
  { addresses: NEWS.map((name) => `/news/${name}.html`), most: 390 },
  { addresses: range(2012, 2025).map((year) => `/news/${year}/`), most: 84 },
  {
    addresses: [
      '/schools/index.htm',
      '/schools/ks2-workshop.htm',
      '/schools/ks3-workshop.htm',
      '/schools/booking.htm',
      '/schools/risk.doc',
      '/schools/teachers%20pack.pdf',
    ],
    most: 244,
  },
  { addresses: ['/gallery/index.asp', ...range(1, 35).map((n) => `/gallery/photo.asp?n=${n}`)], most: 231 },
  {
    addresses: [
      '/shop/',
      '/shop/telescopes/hire',
      '/shop/telescopes/six-inch',
      '/shop/maps/',
      '/shop/mugs/',
      '/shop/basket.php',
      '/shop/checkout.php',
    ],
    most: 198,
  },
  {
    addresses: [
      '/about-us/',
      '/about-us/trustees.html',
      '/about-us/history.html',
      '/about-us/contact.html',
      '/about-us/friends.html',
      '/about-us/people.html',
      '/about-us/privacy.html',
    ],
    most: 176,
  },
  {
    addresses: [
      '/sky/tonight.php',
      '/sky/moon.php',
      '/sky/planets.php',
      ...range(1, 12).map((month) => `/sky/month.php?m=${month}`),
    ],
    most: 612,
  },
  {
    addresses: ['/cymraeg/', '/cymraeg/ymweld.htm', '/cymraeg/oriau.htm', '/cymraeg/awyr.htm', '/cymraeg/cysylltu.htm'],
    most: 92,
  },
  {
    addresses: [
      '/telescope/refractor.html',
      '/telescope/clockwork.html',
      '/telescope/solar.html',
      '/telescope/dark-skies.html',
      '/telescope/dome.html',
      '/telescope/webcam.html',
    ],
    most: 158,
  },
  { addresses: range(1, 14).map((n) => `/events/event.php?event=${100 + n * 7}`), most: 73 },
  {
    addresses: [
      '/downloads/guide2019.pdf',
      '/downloads/map.gif',
      '/downloads/lectures2017.pdf',
      '/links.html',
      '/guestbook.cgi',
      '/search.php?q=moon',
      '/visit/',
      '/about/contact/',
      '/rss.xml',
    ],
    most: 66,
  },
];

export function oldAddresses(): string {
  const rows = GROUPS.flatMap(({ addresses, most }) =>
    addresses.map((address, index) => `${address},${Math.max(1, Math.round(most / (1 + index * 0.42)))}`),
  );
  return `address,visits\n${rows.join('\n')}\n`;
}
