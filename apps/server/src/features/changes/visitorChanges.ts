/** Who can visit from one release to the next, in words. */
import type { Change } from '@fastigium/contracts/api/releases';
import { sameEntry, type Entry, type SiteAccess } from '@fastigium/core/access';
import { addressOfFile } from '@fastigium/core/address';

export function visitorChanges(before: SiteAccess, after: SiteAccess): Change[] {
  const was = new Map(before.rules.map(({ branch, entry }) => [branch, entry]));
  const now = new Map(after.rules.map(({ branch, entry }) => [branch, entry]));
  const change = (key: string, what: Change['what'], subject: string, words: string): Change => ({
    key: `visitors:${key}`,
    group: 'visitors',
    what,
    subject,
    words,
  });
  const subject = (branch: string) => (branch === '/' ? 'The whole site' : branch);
  return [
    ...[...now].flatMap(([branch, entry]) => {
      const old = was.get(branch);
      if (!old)
        return [
          change(
            branch,
            'added',
            subject(branch),
            `${words(entry)}; before, ${branch === '/' ? 'everyone' : 'as what is around it'}`,
          ),
        ];
      return sameEntry(old, entry)
        ? []
        : [
            change(
              branch,
              'changed',
              subject(branch),
              old.kind === 'password' && entry.kind === 'password'
                ? `another ${old.user === entry.user ? 'password' : 'name and password'}`
                : `${words(entry)}; before, ${words(old)}`,
            ),
          ];
    }),
    ...[...was]
      .filter(([branch]) => !now.has(branch))
      .map(([branch, entry]) =>
        change(
          branch,
          'removed',
          subject(branch),
          `${branch === '/' ? 'everyone' : 'as what is around it'}; before, ${words(entry)}`,
        ),
      ),
    ...(before.instead?.page === after.instead?.page
      ? []
      : [
          change(
            'instead',
            after.instead ? (before.instead ? 'changed' : 'added') : 'removed',
            'Shown instead',
            after.instead ? addressOfFile(after.instead.page) : 'a plain line of the host',
          ),
        ]),
    ...(before.lastDay === after.lastDay
      ? []
      : [
          change(
            'last-day',
            after.lastDay === undefined ? 'removed' : before.lastDay === undefined ? 'added' : 'changed',
            'The whole site',
            after.lastDay === undefined ? 'stays up' : `comes down after ${after.lastDay}`,
          ),
        ]),
  ];
}

function words(entry: Entry): string {
  return entry.kind === 'password' ? `those with the password of ${entry.user}` : entry.kind;
}
