import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import type { Request } from 'express';
import type { Deps } from '../../deps.ts';
import type { Caller } from '../../http/caller.ts';
import { csrfToken } from '../../http/csrf.ts';
import type { Routes } from '../../http/route.ts';
import { initials } from './initials.ts';
import { createOwner, needsOwner, signIn } from './people.ts';
import { invite, invited, join, removePerson, setRole, teamPeople, withdraw } from './team.ts';

export function peopleRoutes(routes: Routes, deps: Deps, demo: () => Session['demo']): void {
  const attempts = signIn(deps.db);

  const describe = async (req: Request, person: Caller | undefined): Promise<Session> => ({
    person: person
      ? { id: person.id, name: person.name, initials: initials(person.name), email: person.email, role: person.role }
      : null,
    csrfToken: csrfToken(req),
    needsOwner: await needsOwner(deps.db),
    demo: person ? null : demo(),
  });

  /** A new session for a new person, so that a session known to others before is worth nothing after. */
  async function enter(req: Request, person: Caller): Promise<Session> {
    await new Promise<void>((resolve, reject) =>
      req.session.regenerate((error) => (error ? reject(error as Error) : resolve())),
    );
    req.session.person = person.id;
    return describe(req, person);
  }

  routes.open(sessionApi.get, ({ req, person }) => describe(req, person));
  routes.open(sessionApi.signIn, async ({ req, body }) =>
    enter(req, await attempts.check(body.email, body.password, req.ip ?? '')),
  );
  routes.open(sessionApi.createOwner, async ({ req, body }) => enter(req, await createOwner(deps.db, body)));
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
  routes.open(peopleApi.join, async ({ req, params, body }) => enter(req, await join(deps.db, params.token, body)));
  routes.on(peopleApi.setRole, async ({ person, params, body }) => {
    await setRole(deps.db, person.team, params.person, body.role);
    return { done: true as const };
  });
  routes.on(peopleApi.remove, async ({ person, params }) => {
    await removePerson(deps.db, person.team, params.person);
    return { done: true as const };
  });
  routes.open(sessionApi.signOut, async ({ req, res }) => {
    await new Promise<void>((resolve, reject) =>
      req.session.destroy((error) => (error ? reject(error as Error) : resolve())),
    );
    res.clearCookie('fastigium');
    return { done: true as const };
  });
}
