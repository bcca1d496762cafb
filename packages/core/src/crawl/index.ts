export { leadsTo, settleEncoding, type Answer, type AnswerKind } from './answer.ts';
export { Frontier, type FrontierOptions, type NotAsked } from './frontier.ts';
export { isPageType, Names } from './names.ts';
export { relink, type Relinking } from './relink.ts';
export { findAddressWithin, readScope, type CrawlScope } from './scope.ts';
