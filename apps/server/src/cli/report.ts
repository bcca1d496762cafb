/** Snags for people and for programs. */
import { ALL_CHECKS, createRemedy, createCheckTitle, type SurveySnag } from '@fastigium/core/checks';
import { speak } from '../words.ts';
import type { ReadSite } from './readSite.ts';

export function asText(what: string, files: number, snags: readonly SurveySnag[], notes: ReadSite['notes']): string {
  const lines = [`${what}: ${files.toLocaleString('en')} files`];
  for (const { code, severity, source } of ALL_CHECKS) {
    const found = snags.filter((snag) => snag.code === code);
    if (found.length === 0) continue;
    lines.push(
      '',
      `${speak(createCheckTitle(code))} (${severity === 'must' ? 'must be fixed' : 'worth a look'}, ${found.length.toLocaleString('en')})`,
      `  ${speak(createRemedy(code))} [${source}]`,
    );
    for (const { file, line, column, detail, resolved } of found) {
      lines.push(
        `  ${file}${line === undefined ? '' : `:${line}:${column ?? 1}`}  ${speak(detail)}${resolved === undefined || resolved === detail ? '' : `  (means ${resolved})`}`,
      );
    }
  }
  if (notes.length > 0) lines.push('', 'Not taken in', ...notes.map(({ path, words }) => `  ${path}  ${words}`));
  const must = snags.filter(({ severity }) => severity === 'must').length;
  lines.push(
    '',
    `${must.toLocaleString('en')} must be fixed, ${(snags.length - must).toLocaleString('en')} worth a look`,
    '',
  );
  return lines.join('\n');
}

export function asJson(what: string, files: number, snags: readonly SurveySnag[], notes: ReadSite['notes']): string {
  return `${JSON.stringify(
    {
      site: what,
      files,
      snags: snags.map(({ code, severity, file, line, column, detail, resolved }) => ({
        code,
        severity,
        file,
        position: line === undefined ? null : { line, column },
        words: `${speak(createCheckTitle(code))}: ${speak(detail)}`,
        detail: speak(detail),
        ...(resolved === undefined ? {} : { target: { written: detail, resolved } }),
      })),
      notes,
    },
    null,
    2,
  )}\n`;
}
