/** The draft's redirects for a server, or as a table. */
import type { ExportedRules, ExportForm } from '@fastigium/contracts/api/ruleFiles';
import { splitAddress } from '@fastigium/core/address';
import { decide, splitHost, indexRules, isRedirect, type FileSet, type Rule } from '@fastigium/core/redirects';
import {
  writeApacheAliasRules,
  writeApacheMapRules,
  writeNginxRules,
  writeRuleData,
  filterRulesOfHost,
  filterRulesOfSite,
  writeRuleTable,
  writeStubPages,
  type Exported,
} from '@fastigium/core/redirects/exchange';
import { stringify } from 'csv-stringify/sync';
import type { Deps } from '../../../deps.ts';
import { requireLiveOrigin } from '../../address/liveOrigin.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { readOrigin } from '../../draft/heads/heads.ts';
import { readAllEntries } from '../../shared/manifests.ts';
import { readAddressesToProve } from '../prove/proveJob.ts';

export async function writeRules(
  deps: Deps,
  site: string,
  { form, domain }: { form: ExportForm; domain?: string | undefined },
): Promise<ExportedRules> {
  const compiled = await compileDraft(deps, site);
  const rules =
    domain === undefined
      ? filterRulesOfSite(compiled.rules.rules)
      : filterRulesOfHost(compiled.rules.rules, domain, await readOriginFor(deps, site));
  // Under the old domain nothing of the new site lies.
  const files: FileSet = domain === undefined ? await readAllEntries(deps.db, compiled.shards) : new Set<string>();
  const known =
    form === 'pages'
      ? catchAddresses(
          rules,
          files,
          (await readAddressesToProve(deps.db, site, [])).flatMap((from) => {
            const host = splitHost(from);
            return host.host === domain ? [host.address] : [];
          }),
        )
      : [];
  const { files: written, leftOut } = writeForm(form, rules, files, known);
  return { files: [...written], rules: rules.filter(isRedirect).length, leftOut: [...leftOut] };
}

/** Where the site is to be found: under its main address, else under the temporary one. */
async function readOriginFor(deps: Deps, site: string): Promise<string> {
  const named = await readOrigin(deps.db, site);
  if (named !== undefined) return named;
  return (await requireLiveOrigin(deps, deps.db, site)).origin;
}

function writeForm(
  form: ExportForm,
  rules: readonly Rule[],
  files: FileSet,
  known: readonly { from: string; to: string }[],
): Exported {
  switch (form) {
    case 'nginx':
      return writeNginxRules(rules);
    case 'apache-map':
      return writeApacheMapRules(rules);
    case 'apache-lines':
      return writeApacheAliasRules(rules, files);
    case 'csv':
      return {
        files: [
          {
            name: 'redirects.csv',
            text: stringify(writeRuleTable(rules), { bom: true, record_delimiter: 'windows', escape_formulas: true }),
          },
        ],
        leftOut: [],
      };
    case 'json':
      return {
        files: [{ name: 'redirects.json', text: `${JSON.stringify(writeRuleData(rules), undefined, 2)}\n` }],
        leftOut: [],
      };
    case 'pages':
      return writeStubPages(rules, known, files);
  }
}

/** What patterns catch is written out, since a page can stand for one address only. */
function catchAddresses(
  rules: readonly Rule[],
  files: FileSet,
  addresses: readonly string[],
): { from: string; to: string }[] {
  const index = indexRules(rules);
  return addresses.flatMap((from) => {
    const answer = decide(splitAddress(from), files, index);
    return answer.kind === 'redirect' && answer.rule?.isPattern ? [{ from, to: answer.location }] : [];
  });
}
