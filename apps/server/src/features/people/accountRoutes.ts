/** One's own account. */
import { accountApi, type Account } from '@fastigium/contracts/api/account';
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { endSessions, requireHard, setPassword } from './passwords.ts';
import { readPasskeySite } from './passkeySite.ts';
import { beginCodes, proveCodes } from './second/codes.ts';
import { addPasskey, beginPasskey } from './second/passkeys.ts';
import { makeRecoveryCodes, countRecoveryCodes } from './second/recoveryCodes.ts';
import { readFactors, removeFactor } from './second/secondFactors.ts';
import { announceAccess } from './access.ts';
import type { SignIn } from './signIn.ts';

const done = { done: true as const };

export function addAccountRoutes(routes: Routes, deps: Deps, attempts: SignIn): void {
  const { db, seal } = deps;

  routes.on(accountApi.get, ({ person, req }) => readAccount(deps, person.id, req.session.row));
  routes.on(accountApi.changePassword, async ({ person, body, req }) => {
    await attempts.checkOwn(person.id, body.password, req.ip ?? '');
    await requireHard(deps.threads, body.next, person);
    await setPassword(db, person.id, body.next, { session: req.session.row });
    return done;
  });
  routes.on(accountApi.endSession, async ({ person, params, note }) => {
    const ended = await db.maybeOne<{ agent: string }>(
      'delete from session where id = $1 and person_id = $2 returning agent',
      [params.session, person.id],
    );
    if (!ended) throw new DomainError('not-found', { what: 'session' });
    note(ended.agent);
    await announceAccess(db, person.id);
    return done;
  });
  routes.on(accountApi.endOthers, async ({ person, req }) => {
    await db.transaction((tx) => endSessions(tx, person.id, req.session.row));
    return done;
  });
  routes.on(accountApi.beginCodes, async ({ person, body, note, req }) => {
    await attempts.checkOwn(person.id, body.password, req.ip ?? '');
    note(body.name);
    return beginCodes(db, seal, person, body.name);
  });
  routes.on(accountApi.proveCodes, async ({ person, params, body }) => ({
    recoveryCodes: await proveCodes(db, seal, person.id, params.factor, body.code),
  }));
  routes.on(accountApi.beginPasskey, async ({ person, body, req }) => {
    await attempts.checkOwn(person.id, body.password, req.ip ?? '');
    return beginPasskey(db, person, readPasskeySite(deps.config, req));
  });
  routes.on(accountApi.addPasskey, async ({ person, body, req, note }) => {
    note(body.name);
    return { recoveryCodes: await addPasskey(db, person.id, body, readPasskeySite(deps.config, req)) };
  });
  routes.on(accountApi.removeFactor, async ({ person, params, body, note, req }) => {
    await attempts.checkOwn(person.id, body.password, req.ip ?? '');
    note(await db.transaction((tx) => removeFactor(tx, person.id, params.factor)));
    return done;
  });
  routes.on(accountApi.newRecoveryCodes, async ({ person, body, req }) => {
    await attempts.checkOwn(person.id, body.password, req.ip ?? '');
    if ((await readFactors(db, person.id)).length === 0) throw new DomainError('not-found', { what: 'secondFactor' });
    return { recoveryCodes: await db.transaction((tx) => makeRecoveryCodes(tx, person.id)) };
  });
}

async function readAccount({ db }: Deps, person: string, session: string | undefined): Promise<Account> {
  const { changedAt, ...who } = await db.one<{ name: string; email: string; changedAt: Date }>(
    'select name, email, coalesce(password_changed_at, created_at) as "changedAt" from person where id = $1',
    [person],
  );
  const sessions = await db.many<{
    id: string;
    agent: string;
    address: string;
    since: Date;
    seenAt: Date;
    endsAt: Date;
  }>(
    `select id, agent, address, created_at as since, seen_at as "seenAt", least(idle_until, ends_at) as "endsAt" from session
      where person_id = $1 and idle_until > now() and ends_at > now() order by seen_at desc`,
    [person],
  );
  return {
    ...who,
    passwordChangedAt: changedAt.toISOString(),
    factors: await readFactors(db, person),
    recoveryCodes: await countRecoveryCodes(db, person),
    sessions: sessions.map(({ since, seenAt, endsAt, ...each }) => ({
      ...each,
      since: since.toISOString(),
      seenAt: seenAt.toISOString(),
      endsAt: endsAt.toISOString(),
      isThis: each.id === session,
    })),
  };
}
