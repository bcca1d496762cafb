/**
 * File names for what a running site answers: a static site has no `page.php?id=3`, so each answer gets
 * a file of its own, in the same folder, that says what it is.
 */
import mime from 'mime';
import { decodePath, isPageFile, makeSlug, splitAddress } from '../address/index.ts';

const PAGE_TYPES = new Set(['text/html', 'application/xhtml+xml']);

/** Media types under which anything may be served; the ending says more. */
const VAGUE_TYPES = new Set([
  'application/octet-stream',
  'text/plain',
  'binary/octet-stream',
  'application/x-download',
]);

/** Endings of programs, not of what they give (common practice, no source). */
const PROGRAM = /\.(php\d?|phtml|asp|aspx|ashx|jsp|jspx|cgi|pl|cfm|do|shtml|py|rb)$/i;

const ENDING = /\.[A-Za-z0-9]{1,10}$/;

export const isPageType = (type: string): boolean => PAGE_TYPES.has(type);

/** Gives each answer a name that no other has, not even in other letters' case, and that is no other's folder. */
export class Names {
  readonly #files = new Set<string>();
  readonly #folders = new Set<string>();

  /**
   * @param address normal address it answered at
   * @param type its media type, without parameters, in lower case
   * @returns path in the site, such as `gallery/photo-12.html`
   */
  nameFor(address: string, type: string): string {
    const { stem: wished, ending } = wish(address, type);
    const stem = this.#besideFiles(wished);
    for (let n = 1; ; n += 1) {
      const name = `${stem}${n === 1 ? '' : `-${n}`}${ending}`;
      if (this.#take(name)) return name;
    }
  }

  #take(name: string): boolean {
    const folded = name.toLowerCase();
    if (this.#files.has(folded) || this.#folders.has(folded)) return false;
    this.#files.add(folded);
    for (let slash = folded.indexOf('/'); slash >= 0; slash = folded.indexOf('/', slash + 1))
      this.#folders.add(folded.slice(0, slash));
    return true;
  }

  /** A running site may have `/a.html` and `/a.html/b`; on a disk the folder needs another name. */
  #besideFiles(stem: string): string {
    const segments = stem.split('/');
    let path = '';
    for (const [index, segment] of segments.slice(0, -1).entries()) {
      let name = segment;
      while (this.#files.has((path + name).toLowerCase())) name += '-';
      segments[index] = name;
      path += `${name}/`;
    }
    return segments.join('/');
  }
}

function wish(address: string, type: string): { stem: string; ending: string } {
  const { path, query } = splitAddress(address);
  const file = (decodePath(path.slice(1)) ?? withoutEscapes(path.slice(1)))
    .replace(/\/{2,}/g, '/')
    .replace(/[\0-\x1f]/g, '-');
  const suffix = query === undefined ? '' : writeSuffix(query);
  if (isPageType(type)) return splitPageName(file, suffix);
  const known = ENDING.exec(file)?.[0] ?? '';
  if (known !== '' && !PROGRAM.test(file) && (VAGUE_TYPES.has(type) || mime.getType(file) !== null)) {
    // `style.css?v=3` is style.css; its links find it as they are.
    return { stem: file.slice(0, -known.length), ending: known };
  }
  const ending = VAGUE_TYPES.has(type) ? '' : (mime.getExtension(type) ?? '');
  return { stem: join(file.replace(PROGRAM, ''), suffix, 'file'), ending: ending === '' ? '' : `.${ending}` };
}

function splitPageName(file: string, suffix: string): { stem: string; ending: string } {
  if (file === '' || file.endsWith('/'))
    return { stem: suffix === '' ? `${file}index` : file + suffix, ending: '.html' };
  const plain = file.replace(PROGRAM, '');
  const ending = isPageFile(plain) ? (ENDING.exec(plain)?.[0] ?? '') : '';
  return {
    stem: join(plain.slice(0, plain.length - ending.length), suffix, 'page'),
    ending: ending === '' ? '.html' : ending,
  };
}

const join = (file: string, suffix: string, otherwise: string): string => {
  const stem =
    file === '' || file.endsWith('/') ? file + (suffix === '' ? otherwise : '') : suffix === '' ? file : `${file}-`;
  return stem + suffix;
};

/** `id=3` is `3`; `year=2016&page=2` is `year-2016-page-2`. */
function writeSuffix(query: string): string {
  const parts = query.split('&').filter((part) => part !== '');
  const words = parts.length === 1 ? (parts[0] ?? '').replace(/^[^=]*=(?=.)/, '') : query;
  return makeSlug((decodePath(words.replace(/\+/g, ' ')) ?? withoutEscapes(words)).slice(0, 120)) || 'query';
}

const withoutEscapes = (text: string): string => text.replace(/%[0-9A-Fa-f]{2}/g, '-');
