/** Who can visit from one release to the next. */
import type { Change } from '@fastigium/contracts/api/releases';
import { isSameEntry, type Entry, type SiteAccess } from '@fastigium/core/access';
import { findAddressOfFile } from '@fastigium/core/address';
import { change as says, type ChangeMessage } from '@fastigium/core/report';

export function compareVisitors(before: SiteAccess, after: SiteAccess): Change[] {
  const was = new Map(before.rules.map(({ branch, entry }) => [branch, entry]));
  const now = new Map(after.rules.map(({ branch, entry }) => [branch, entry]));
  const change = (key: string, what: Change['what'], subject: Change['subject'], message: ChangeMessage): Change => ({
    key: `visitors:${key}`,
    group: 'visitors',
    what,
    subject,
    message,
  });
  const subject = (branch: string) => (branch === '/' ? says('whole-site') : branch);
  return [
    ...[...now].flatMap(([branch, entry]) => {
      const old = was.get(branch);
      if (!old)
        return [
          change(
            branch,
            'added',
            subject(branch),
            says('who', { now: describeWho(entry), before: describeWhoWithout(branch) }),
          ),
        ];
      return isSameEntry(old, entry)
        ? []
        : [
            change(
              branch,
              'changed',
              subject(branch),
              old.kind === 'password' && entry.kind === 'password'
                ? says('another-password', { user: old.user === entry.user ? 'same' : 'other' })
                : says('who', { now: describeWho(entry), before: describeWho(old) }),
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
          says('who', { now: describeWhoWithout(branch), before: describeWho(entry) }),
        ),
      ),
    ...(before.instead?.page === after.instead?.page
      ? []
      : [
          change(
            'instead',
            after.instead ? (before.instead ? 'changed' : 'added') : 'removed',
            says('shown-instead'),
            after.instead
              ? says('instead-page', { address: findAddressOfFile(after.instead.page) })
              : says('instead-line-of-host'),
          ),
        ]),
    ...(before.lastDay === after.lastDay
      ? []
      : [
          change(
            'last-day',
            after.lastDay === undefined ? 'removed' : before.lastDay === undefined ? 'added' : 'changed',
            says('whole-site'),
            after.lastDay === undefined ? says('stays-up') : says('comes-down', { day: after.lastDay }),
          ),
        ]),
  ];
}

function describeWho(entry: Entry): ChangeMessage {
  return entry.kind === 'password' ? says('who-password', { user: entry.user }) : says(`who-${entry.kind}`);
}

/** Where nothing is said of a branch itself. */
const describeWhoWithout = (branch: string): ChangeMessage => says(branch === '/' ? 'who-everyone' : 'who-around');
