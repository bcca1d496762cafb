/**
 * Redirects as pages, for hosts that can do nothing else: each sends its visitor on by itself, at once, which
 * search engines take for a permanent redirect (HTML standard, "refresh"; that they do is common practice).
 */
import { listCandidateFiles, decodePath, isPageFile } from '../../address/index.ts';
import type { FileSet } from '../decide.ts';
import { isRedirect, type Rule } from '../rule.ts';
import { unsaid } from '../messages.ts';
import type { Exported } from './exported.ts';

/**
 * @param known addresses that patterns are written out for, with where each of them leads
 * @param files of the release; where one is, no stub goes
 */
export function writeStubPages(
  rules: readonly Rule[],
  known: readonly { readonly from: string; readonly to: string }[],
  files: FileSet,
): Exported {
  const leftOut: Exported['leftOut'][number][] = [];
  const pages = new Map<string, string>();
  const add = (from: string, to: string): void => {
    const file = findStubFile(from);
    if (file === undefined)
      leftOut.push({
        from,
        why: from.includes('?') ? unsaid('page-query') : unsaid('page-other-type'),
      });
    else if (listCandidateFiles(from).some((path) => files.has(path)) || files.has(file))
      leftOut.push({ from, why: unsaid('page-there') });
    else pages.set(file, writeStub(to));
  };
  for (const rule of rules) {
    if (rule.isPattern) continue;
    if (isRedirect(rule) && rule.status !== 410 && rule.to !== undefined) add(rule.from, rule.to);
    else if (rule.status === 410) leftOut.push({ from: rule.from, why: unsaid('page-gone') });
  }
  for (const { from, to } of known) add(from, to);
  return { files: [...pages].sort(([a], [b]) => (a < b ? -1 : 1)).map(([name, text]) => ({ name, text })), leftOut };
}

/** A folder's page also for an address without ending: a server sends on to it with the slash. */
function findStubFile(from: string): string | undefined {
  const path = decodePath(from.slice(1));
  if (path === undefined || from.includes('?') || path.split('/').some((part) => part === '..' || part === '.'))
    return undefined;
  if (path === '' || path.endsWith('/')) return `${path}index.html`;
  if (isPageFile(path)) return path;
  return /\.[A-Za-z0-9]{1,8}$/.test(path) ? undefined : `${path}/index.html`;
}

function writeStub(to: string): string {
  const target = to.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<title>Moved</title>
<meta http-equiv="refresh" content="0; url=${target}">
<link rel="canonical" href="${target}">
<p>This page is at <a href="${target}">${target}</a> now.</p>
</html>
`;
}
