/** What of a name can be registered, by the public suffix list (publicsuffix.org, through tldts), privately run endings included. */
import { parse } from 'tldts';
import type { DomainName } from '../dns/name.ts';

export interface NameParts {
  /** What a registry sells: `museum.co.uk` of `www.museum.co.uk`. Undefined where the name is itself an ending. */
  readonly registrable: DomainName | undefined;
  readonly ending: DomainName;
  /** The word that is one's own: `museum`. */
  readonly word: string;
}

/** `sold`: endings under which a registrar sells names though the list does not have them, as a stand-in does. */
export function splitName(name: DomainName, sold: readonly string[] = []): NameParts {
  const suffix = sold.filter((each) => name.endsWith(`.${each}`)).sort((a, b) => b.length - a.length)[0];
  if (suffix !== undefined) {
    const word =
      name
        .slice(0, -(suffix.length + 1))
        .split('.')
        .at(-1) ?? '';
    return { registrable: `${word}.${suffix}`, ending: suffix, word };
  }
  if (sold.includes(name)) return { registrable: undefined, ending: name, word: name };
  const { domain, publicSuffix, domainWithoutSuffix } = parse(name, {
    allowPrivateDomains: true,
    validateHostname: false,
  });
  return { registrable: domain ?? undefined, ending: publicSuffix ?? name, word: domainWithoutSuffix || name };
}
