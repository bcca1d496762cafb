/** Metadata set for the site, a branch or a page: each setting is checked as what it will become. */
import { reason } from '@fastigium/contracts/messages/reason';
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import { where } from '@fastigium/contracts/messages/names';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import {
  isSettable,
  createLineMessage,
  isTitlePattern,
  findMarkupFault,
  SITE_SETTINGS,
  SWITCHES,
  type HeadSetting,
} from '@fastigium/core/head';
import { readColour } from '@fastigium/core/css';
import { fold } from '@fastigium/core/html';
import { checkLanguage } from '@fastigium/core/languages';
import { isSameMessage, type Message } from '@fastigium/core/messages';
import { checkSecurityTxt, securityTxt } from '@fastigium/core/securityTxt';
import { checkData } from '@fastigium/core/structured';
import { isAdded, findSiteAddress } from '@fastigium/core/site';
import { readPagesById, type SourcePage } from '../pageFiles.ts';
import type { Prepared, Situation } from './situation.ts';

type Request = Extract<DecisionRequest, { kind: 'head' }>;

export async function prepareHead(situation: Situation, request: Request): Promise<Prepared> {
  const { draft, tx, importId } = situation;
  const ids = request.settings.flatMap(({ scope, name, text }) => [
    ...(scope.kind === 'everywhere' ? [] : [scope.page]),
    ...(name === 'translates' && typeof text === 'string' && text !== '' ? [text] : []),
  ]);
  const pages = await readPagesById(tx, importId, draft, ids);
  for (const id of ids) if (!pages.has(id)) throw new DomainError('not-found', { what: 'page' });
  const settings = request.settings.map(({ scope, name, text, own: ownText }): HeadSetting => ({
    scope,
    name,
    text: text === null ? undefined : text === false ? false : read(name, text, scope.kind, situation),
    ...(ownText === null ? {} : { own: ownText }),
  }));
  await refuseMissingPictures(situation, settings);
  return { decision: { kind: 'head', settings }, message: describeHead(situation, settings, pages) };
}

function refuse(name: string, why: Message): never {
  throw new DomainError('metadata-unusable', { what: createLineMessage(name), why });
}

/** The text as it is kept. */
function read(name: string, text: string, scope: HeadSetting['scope']['kind'], { deps }: Situation): string {
  if (SITE_SETTINGS.has(name) && scope !== 'everywhere') refuse(name, reason('of-whole-site'));
  if (SWITCHES.has(name)) return text === 'on' ? text : refuse(name, reason('on-or-off'));
  const line = fold(text);
  switch (name) {
    case 'title':
      if (scope !== 'page') refuse(name, reason('own-title'));
      return line === '' ? refuse(name, reason('empty')) : line;
    case 'translates':
      return scope === 'page' ? text : refuse(name, reason('of-one-page'));
    case 'pattern':
      return isTitlePattern(line) ? line : refuse(name, reason('no-page-in-pattern', { placeholder: '{page}' }));
    case 'name':
    case 'tagline':
      return line;
    case 'language': {
      const tag = checkLanguage(text);
      return tag.ok ? tag.tag : refuse(name, reason('no-language-tag', { text, why: tag.why }));
    }
    case 'data':
    case 'organisation': {
      const broken = checkData(text).find(({ message }) => message.code.startsWith('structured.not-json-'));
      return broken ? refuse(name, broken.message) : text.trim();
    }
    case 'code:head':
    case 'code:end': {
      const fault = findMarkupFault(text, name === 'code:head' ? 'head' : 'end');
      return fault === undefined ? text.trim() : refuse(name, fault);
    }
    case 'robots.txt':
      return text;
    case 'security.txt': {
      const [fault] = checkSecurityTxt(text, new Date(deps.world.clock.nowMs()).toISOString());
      return fault
        ? refuse(
            name,
            fault.line === undefined
              ? fault.message
              : securityTxt('in-line', { line: fault.line, problem: fault.message }),
          )
        : text;
    }
    case 'meta:theme-color':
      return readColour(line) ? line : refuse(name, reason('no-colour', { text: line }));
    case 'link:canonical':
    case 'meta:og:image':
      return isAddress(line) ? line : refuse(name, reason('no-address', { text: line }));
  }
  if (!isSettable(name)) refuse(name, reason('no-such-line'));
  return line === '' ? refuse(name, reason('empty-line')) : line;
}

function isAddress(text: string): boolean {
  return (text.startsWith('/') && !text.startsWith('//')) || (/^https?:\/\//i.test(text) && URL.canParse(text));
}

async function refuseMissingPictures(
  { tx, importId, draft }: Situation,
  settings: readonly HeadSetting[],
): Promise<void> {
  const wanted = [
    ...new Set(
      settings.flatMap(({ name, text }) =>
        name === 'meta:og:image' && typeof text === 'string' && text.startsWith('/') ? [text] : [],
      ),
    ),
  ];
  if (wanted.length === 0) return;
  const known = new Set(
    (
      await tx.many<{ address: string }>('select address from source_file where import_id = $1 and address = any($2)', [
        importId,
        wanted,
      ])
    ).map(({ address }) => address),
  );
  const missing = wanted.find((address) => !known.has(address) && !draft.assets.has(address.slice(1)));
  if (missing !== undefined) throw new DomainError('file-not-there', { address: missing });
}

function describeHead(
  situation: Situation,
  settings: readonly HeadSetting[],
  pages: ReadonlyMap<string, SourcePage>,
): DecisionMessage {
  const names = settings.map(({ name }) => createLineMessage(name));
  const lines = names.filter((each, index) => names.findIndex((other) => isSameMessage(each, other)) === index);
  const within = placeOf(situation, settings, pages);
  const [only] = settings.length === 1 ? settings : [];
  const [line] = lines;
  if (line && only && typeof only.text === 'string' && isShort(only.text))
    return decided('head-set-to', { where: within, line, text: only.text });
  return decided('head-set', {
    where: within,
    lines: lines.slice(0, MOST_NAMED),
    kinds: lines.length,
    how: judgeHow(settings),
  });
}

const MOST_NAMED = 2;

const isShort = (text: string): boolean => text.length <= 80 && text !== 'on' && !text.includes('\n');

function placeOf(
  { draft }: Situation,
  settings: readonly HeadSetting[],
  pages: ReadonlyMap<string, SourcePage>,
): Message {
  const places = new Map(
    settings.map(({ scope }) => [scope.kind === 'everywhere' ? '' : `${scope.kind} ${scope.page}`, scope]),
  );
  const [scope] = places.values();
  if (places.size > 1) return where('pages', { count: places.size });
  if (!scope || scope.kind === 'everywhere') return where('site');
  const page = pages.get(scope.page);
  const address =
    page && (isAdded(draft, page.id) || page.sourcePath !== '') ? draft.basePath + findSiteAddress(draft, page) : '';
  return where(scope.kind, { address });
}

function judgeHow(settings: readonly HeadSetting[]): 'inherited' | 'leftOut' | 'kept' | 'inPlaceOfOwn' | 'set' {
  if (settings.every(({ text, own: ownText }) => text === undefined && ownText === undefined)) return 'inherited';
  if (settings.every(({ text }) => text === false)) return 'leftOut';
  if (settings.some(({ text }) => text !== undefined)) return 'set';
  return settings.every(({ own: ownText }) => ownText === 'kept') ? 'kept' : 'inPlaceOfOwn';
}
