/** The draft's redirects for a server, or as a table. */
import type { ExportedRules, ExportForm } from '@fastigium/contracts/api/ruleFiles';
import { splitAddress } from '@fastigium/core/address';
import { decide, hostOf, indexRules, isRedirect, type FileSet, type Rule } from '@fastigium/core/redirects';
import {
  apacheAliasRules,
  apacheMapRules,
  nginxRules,
  ruleData,
  rulesOfHost,
  rulesOfSite,
  ruleTable,
  stubPages,
  type Exported,
} from '@fastigium/core/redirects/exchange';
import { stringify } from 'csv-stringify/sync';
import type { Deps } from '../../../deps.ts';
import { liveOrigin } from '../../address/liveOrigin.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { originOf } from '../../draft/heads/heads.ts';
import { allEntries } from '../../shared/manifests.ts';
import { addressesToProve } from '../prove/proveJob.ts';

export async function writeRules(
  deps: Deps,
  site: string,
  { form, domain }: { form: ExportForm; domain?: string | undefined },
): Promise<ExportedRules> {
  const compiled = await compileDraft(deps, site);
  const rules =
    domain === undefined
      ? rulesOfSite(compiled.rules.rules)
      : rulesOfHost(compiled.rules.rules, domain, await originFor(deps, site));
  // Under the old domain nothing of the new site lies.
  const files: FileSet = domain === undefined ? await allEntries(deps.db, compiled.shards) : new Set<string>();
  const known =
    form === 'pages'
      ? caught(
          rules,
          files,
          (await addressesToProve(deps.db, site, [])).flatMap((from) => {
            const host = hostOf(from);
            return host.host === domain ? [host.address] : [];
          }),
        )
      : [];
  const { files: written, leftOut } = exported(form, rules, files, known);
  return { files: [...written], rules: rules.filter(isRedirect).length, leftOut: [...leftOut] };
}

/** Where the site is to be found: under its main address, else under the temporary one. */
async function originFor(deps: Deps, site: string): Promise<string> {
  const named = await originOf(deps.db, site);
  if (named !== undefined) return named;
  return (await liveOrigin(deps, deps.db, site)).origin;
}

function exported(
  form: ExportForm,
  rules: readonly Rule[],
  files: FileSet,
  known: readonly { from: string; to: string }[],
): Exported {
  switch (form) {
    case 'nginx':
      return nginxRules(rules);
    case 'apache-map':
      return apacheMapRules(rules);
    case 'apache-lines':
      return apacheAliasRules(rules, files);
    case 'csv':
      return {
        files: [
          {
            name: 'redirects.csv',
            text: stringify(ruleTable(rules), { bom: true, record_delimiter: 'windows', escape_formulas: true }),
          },
        ],
        leftOut: [],
      };
    case 'json':
      return {
        files: [{ name: 'redirects.json', text: `${JSON.stringify(ruleData(rules), undefined, 2)}\n` }],
        leftOut: [],
      };
    case 'pages':
      return stubPages(rules, known, files);
  }
}

/** What patterns catch is written out, since a page can stand for one address only. */
function caught(rules: readonly Rule[], files: FileSet, addresses: readonly string[]): { from: string; to: string }[] {
  const index = indexRules(rules);
  return addresses.flatMap((from) => {
    const answer = decide(splitAddress(from), files, index);
    return answer.kind === 'redirect' && answer.rule?.isPattern ? [{ from, to: answer.location }] : [];
  });
}
