import type { link, meaning, measured, standing } from '@fastigium/core/reach';
import type { CatalogueOf } from '../catalogue.ts';

const LINK =
  '{link, select, registration {registration} nameServers {name servers} records {records} certificate {certificate} other {host}}';

export const linkWords: CatalogueOf<typeof link> = {
  'not-known': 'not known',
  'waits-for': `waits for ${LINK}`,
  'nobody-holds-it': 'nobody holds it',
  held: 'held',
  'held-until': 'held until {day}',
  'ran-out': 'ran out {day}',
  'none-named': 'none are named',
  'none-answers': 'none answers',
  'some-answer': '{answering, number} of {all, number} answer',
  'they-differ': 'they differ',
  'answer-alike': '{names} answer alike',
  'host-not-known': 'host not known',
  'some-right': '{right, number} of {all, number} right',
  'reaching-everyone': 'reaching everyone',
  'all-right': 'all {all, number} right',
  'none-served': 'none served',
  'of-another-name': 'another name’s',
  'not-trusted': 'not trusted',
  'days-left': '{days, plural, one {# day} other {# days}} left',
  'does-not-answer': 'does not answer',
  'answers-status': 'answers {status}',
  'nothing-published': 'nothing published',
  'answers-in': 'answers in {ms, number} ms',
  'leads-on-in': 'leads on in {ms, number} ms',
  'leads-nowhere': 'leads nowhere',
  'leads-elsewhere': 'leads elsewhere',
};

export const meaningWords: CatalogueOf<typeof meaning> = {
  'registry-silent': 'The registry could not be asked: {reason}. Visitors notice nothing of that; it is asked again.',
  'not-registered':
    'The name is not registered, so it leads nowhere. Register it, or look whether it is spelled right.',
  'registered-without-end': 'The name is registered. The registry does not say until when.',
  'registration-over':
    'The registration has run out. Renew it at the registrar at once: soon somebody else may take the name.',
  'registration-ends-soon':
    'The registration ends soon. Renew it at the registrar, or switch on renewal by itself there.',
  registered: 'The name is registered.',
  'no-name-servers': 'The registry names no name servers for it. Enter those of the DNS provider at the registrar.',
  'name-servers-silent':
    'No name server answers ({reason}). Resolvers go on with what they remember until it runs out; then visitors find nothing. Ask the DNS provider.',
  'some-silent': '{silent}. Visitors get through, slower now and then.',
  'server-silent': '{name}: {reason}',
  'zones-differ':
    'The name servers do not have the same version of the zone yet. Some visitors get the old answer, some the new, until they agree.',
  'zones-alike': 'All name servers answer, with the same version of the zone.',
  'records-not-known': 'No name server answered, so nothing is known of the records.',
  'host-not-said':
    'Nobody has said where the host answers, so it is not known what the records should be. Say it under Host. Nothing that stands there is touched.',
  'records-wrong': 'Visitors who type the name do not reach the new host yet.',
  'records-spreading':
    'The records are right at the name servers. Resolvers still hand out the old answer until it runs out. Nothing needs republishing.',
  'records-right': 'The name leads to the host.',
  'certificate-comes':
    'https is not answered ({reason}). A certificate is ordered by itself as soon as the records are right.',
  'certificate-of-host':
    'https is not answered ({reason}). This host looks after its own certificate; set it up there.',
  'certificate-over': 'The certificate has run out: browsers warn every visitor off. Order a new one.',
  'certificate-of-others':
    'The certificate is for {covered}, not for {uncovered}: browsers warn visitors off. One for these names is needed.',
  'certificate-not-trusted':
    'No chain of signatures leads from the certificate to an authority that browsers trust: they warn visitors off.',
  'certificate-due': 'The certificate is due to be renewed. That happens by itself; visitors notice nothing.',
  'certificate-valid': 'Valid for {covered}. It renews itself.',
  'host-silent': 'The host does not answer ({reason}). Visitors see an error of their browser.',
  'host-fails': 'The host answers with an error of its own. Ask whoever runs it.',
  'nothing-there': 'The host answers, but there is no page there. Publish a release.',
  'host-answers': 'The host answers with the site.',
  'sends-on': 'The host sends visitors on to {main}.',
  'sends-nowhere':
    'The host does not send visitors on to {main}. Visitors of this domain do not find the site; set the redirect up at the host.',
  'sends-elsewhere':
    'The host does not send visitors on to {main} but to {there}. Visitors of this domain do not find the site; set the redirect up at the host.',
};

export const standingWords: CatalogueOf<typeof standing> = {
  'not-looked-at': 'not looked at yet',
  'all-right': 'all five links right',
  'at-link': `${LINK}: {words}`,
  'of-domain': '{domain}, {standing}',
};

export const measuredWords: CatalogueOf<typeof measured> = {
  'nothing-to-fix': 'the checks found nothing that holds a release',
  'to-fix': '{count, number} must be fixed',
  'no-old-addresses': 'none is known',
  settled: '{settled, number} of {all, number}',
  'not-published': 'not published yet',
  published:
    'release {release}, {verdict, select, unasked {not asked from outside yet} wrong {found otherwise than published} other {found as published}}',
  'no-domain': 'none yet',
  domain: '{name}',
  'no-answer': 'no answer yet',
  kept: 'kept {time}',
  'records-not-looked-at': 'not looked at yet',
  'records-as-needed': 'as needed',
  'records-to-change': '{count, number} to change',
  'servers-give-old': 'the name servers give the old one',
  resolvers: '{fresh, number} of {all, number} resolvers',
  'certificate-served':
    '{https, select, yes {served, http goes to https} other {served; http does not go to https yet}}',
  certificate:
    'certificate {state, select, none {not there yet} waiting {waiting} ordering {being ordered} wrong {wrong} other {expired}}',
  'not-asked': 'not asked yet',
  'answers-so': 'it does',
  'answers-not-so': 'it does not yet',
  lost: '{count, plural, one {# address finds} other {# addresses find}} nothing',
  'log-not-read': 'the access log was not read yet',
  'nothing-lost': 'nothing lost so far',
  'not-before-last-answer': 'not before the last old answer has run out',
  'last-answer-over': 'the last old answer has run out',
  'answers-still-kept': 'old answers are still kept somewhere',
};
