import { DomainError } from '@fastigium/contracts/errors';
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import type { Request } from 'express';
import type { Deps } from '../../deps.ts';
import type { Caller } from '../../http/caller.ts';
import { newToken, type CsrfTokens } from '../../http/csrf.ts';
import type { Routes } from '../../http/route.ts';
import { cookieName, enterSession, leaveSession } from '../../http/sessions.ts';
import { initials } from './initials.ts';
import { createOwner, needsOwner } from './people.ts';
import { signIn } from './signIn.ts';
import { announceAccess, invite, invited, join, removePerson, setRole, teamPeople, withdraw } from './team.ts';

export function peopleRoutes(
  routes: Routes,
  deps: Deps,
  csrf: CsrfTokens,
  demo: (req: Request) => Session['demo'],
): void {
  const attempts = signIn(deps.db);

  const describe = async (req: Request, person: Caller | undefined): Promise<Session> => ({
    person: person
      ? { id: person.id, name: person.name, initials: initials(person.name), email: person.email, role: person.role }
      : null,
    csrfToken: csrf.of(req),
    needsOwner: await needsOwner(deps.db),
    demo: person ? null : demo(req),
  });

  async function enter(req: Request, person: Caller): Promise<Session> {
    await enterSession(req, person.id, newToken());
    return describe(req, person);
  }

  routes.open(sessionApi.get, ({ req, person }) => describe(req, person));
  routes.open(sessionApi.signIn, async ({ req, body }) =>
    enter(req, await attempts.check(body.email, body.password, req.ip ?? '')),
  );
  routes.open(sessionApi.createOwner, async ({ req, body }) => {
    // Reckoning a hash is dear, so it is not done for whoever comes too late.
    if (!(await needsOwner(deps.db))) throw new DomainError('owner-exists');
    return enter(req, await createOwner(deps.db, body));
  });
  routes.on(peopleApi.list, ({ person }) => teamPeople(deps.db, person.team));
  routes.on(peopleApi.invite, ({ person, body }) => invite(deps.db, { ...person }, body.role, body.days));
  routes.on(peopleApi.withdraw, async ({ person, params }) => {
    await withdraw(deps.db, person.team, params.invitation);
    return { done: true as const };
  });
  routes.open(peopleApi.invited, async ({ params }) => {
    const { teamName, by, role, until } = await invited(deps.db, params.token);
    return { team: teamName, by, role, until: until.toISOString() };
  });
  routes.open(peopleApi.join, async ({ req, params, body }) => {
    // The same: a link that is none costs nothing.
    await invited(deps.db, params.token);
    return enter(req, await join(deps.db, params.token, body));
  });
  routes.on(peopleApi.setRole, async ({ person, params, body }) => {
    await setRole(deps.db, person.team, params.person, body.role);
    return { done: true as const };
  });
  routes.on(peopleApi.remove, async ({ person, params }) => {
    await removePerson(deps.db, person.team, params.person);
    return { done: true as const };
  });
  routes.open(sessionApi.signOut, async ({ req, res, person }) => {
    await leaveSession(req);
    if (person) await announceAccess(deps.db, person.id);
    res.clearCookie(cookieName(deps.config.publicSite), { path: '/', secure: deps.config.publicSite.isSecure });
    return { done: true as const };
  });
}
