/** How a visitor reaches a site, as the server would answer it: invented names, addresses for documentation (RFC 5737). */
import type { AddressView } from '@fastigium/contracts/api/address';
import { certificate, host } from '@fastigium/contracts/messages/address';
import { resolved } from '@fastigium/core/dns';
import { link, meaning } from '@fastigium/core/reach';

/** By the world's clock of these views. */
export const NOW = Date.UTC(2026, 10, 25, 9, 0);
/** The instant so many minutes from it; before it where they are negative. */
export const countFromNow = (minutes: number) => new Date(NOW + minutes * 60_000).toISOString();
export const createRecordRow = (
  name: string,
  type: string,
  answered: string[],
  needed: string[] | null,
  state: AddressView['records'][number]['state'],
) => ({ name, type, answered, answeredTtlSeconds: 3600, needed, state, note: null });

/** One record of two is wrong, so the certificate waits and one resolver of two still has the old answer. */
export const ADDRESS_VIEW: AddressView = {
  now: countFromNow(0),
  simulated: true,
  temporary: { label: 'a', url: 'http://a.localhost/' },
  hostWords: host('none'),
  hostNaming: true,
  canRegister: true,
  lookedAt: countFromNow(-1),
  nextLookupAt: countFromNow(1),
  firstBroken: 'records',
  changes: [],
  further: [],
  mail: null,
  domain: {
    name: 'a.example',
    unicode: 'a.example',
    zone: 'a.example',
    main: 'www.a.example',
    mainForm: 'www',
    hasPair: true,
    others: [],
    inAccount: false,
    updates: null,
    updatable: [],
    forceHttps: false,
    hstsSeconds: null,
    zoneBrought: false,
  },
  chain: [
    { link: 'registration', state: 'right', words: link('held'), meaning: meaning('registered'), asked: [] },
    {
      link: 'name-servers',
      state: 'right',
      words: link('answer-alike', { names: ['ns1'] }),
      meaning: meaning('zones-alike'),
      asked: [],
    },
    {
      link: 'records',
      state: 'broken',
      words: link('some-right', { right: 1, all: 2 }),
      meaning: meaning('records-wrong'),
      asked: [
        { question: 'A a.example', ofWhom: 'ns1', answer: '203.0.113.9', at: countFromNow(-1), ms: 4, ok: true },
        {
          question: 'A a.example',
          ofWhom: 'Campus',
          answer: 'no answer within 2 s',
          at: countFromNow(-1),
          ms: 4000,
          ok: false,
        },
      ],
    },
    {
      link: 'certificate',
      state: 'waiting',
      words: link('waits-for', { link: 'records' }),
      meaning: meaning('certificate-comes', { reason: '' }),
      asked: [],
    },
    { link: 'host', state: 'right', words: link('answers-in', { ms: 4 }), meaning: meaning('host-answers'), asked: [] },
  ],
  records: [
    createRecordRow('www.a.example', 'CNAME', ['edge.host.test.'], ['edge.host.test.'], 'right'),
    createRecordRow('a.example', 'A', ['203.0.113.9'], ['198.51.100.24'], 'wrong'),
    createRecordRow('a.example', 'MX', ['10 mail.a.example.'], null, 'kept'),
    createRecordRow('a.example', 'TXT', ['"v=spf1"'], null, 'kept'),
  ],
  spread: {
    authorityAnswers: true,
    authorityNewSince: countFromNow(-5),
    everyoneBy: countFromNow(60),
    presentTtlSeconds: 3600,
    negativeTtlSeconds: 600,
    resolvers: [
      {
        resolver: 'Home',
        address: '1',
        state: 'old',
        oldUntil: countFromNow(30),
        answers: [resolved('data', { type: 'A', name: 'a.example', data: ['203.0.113.9'] })],
        added: false,
      },
      { resolver: 'Office', address: '2', state: 'new', oldUntil: null, answers: [], added: false },
    ],
  },
  certificate: {
    state: 'none',
    words: certificate('none-served'),
    names: [],
    issuer: null,
    chain: [],
    notBefore: null,
    notAfter: null,
    daysLeft: null,
    renewAt: null,
    nextTry: null,
    error: null,
  },
};
