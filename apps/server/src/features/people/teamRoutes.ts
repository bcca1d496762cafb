/** The team: who is in it, in which role, what each sees, and how they come in. */
import { actAbout } from '@fastigium/contracts/messages/act';
import { peopleApi } from '@fastigium/contracts/api/people';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { endSessions, makeReset } from './passwords.ts';
import { removeAllFactors } from './second/secondFactors.ts';
import { invite, requireMember, removePerson, setRole, showSites, readTeamPeople, withdraw } from './team.ts';

const done = { done: true as const };

export function addTeamRoutes(routes: Routes, { db }: Deps): void {
  routes.on(peopleApi.list, ({ person }) => readTeamPeople(db, person.team, person.role === 'owner'));
  routes.on(peopleApi.invite, ({ person, body, note }) => {
    note(actAbout('role', { role: body.role }));
    return invite(db, { ...person }, body);
  });
  routes.on(peopleApi.withdraw, async ({ person, params }) => {
    await withdraw(db, person.team, params.invitation);
    return done;
  });
  routes.on(peopleApi.setRole, async ({ person, params, body, note }) => {
    const { name, role } = await requireMember(db, person.team, params.person);
    note(actAbout('role-given', { name, before: role, after: body.role }));
    await setRole(db, person.team, params.person, body.role);
    return done;
  });
  routes.on(peopleApi.remove, async ({ person, params, note }) => {
    note((await requireMember(db, person.team, params.person)).name);
    await removePerson(db, person.team, params.person);
    return done;
  });
  routes.on(peopleApi.setSites, async ({ person, params, body, note }) => {
    const { name } = await requireMember(db, person.team, params.person);
    note(actAbout('sites-seen', { name, which: body.sites === null ? 'all' : 'some', count: body.sites?.length ?? 0 }));
    await showSites(db, person.team, params.person, body.sites);
    return done;
  });
  routes.on(peopleApi.resetPassword, async ({ person, params, note }) => {
    note((await requireMember(db, person.team, params.person)).name);
    return makeReset(db, params.person, person.id);
  });
  routes.on(peopleApi.endSessions, async ({ person, params, note }) => {
    note((await requireMember(db, person.team, params.person)).name);
    await db.transaction((tx) => endSessions(tx, params.person));
    return done;
  });
  routes.on(peopleApi.removeFactors, async ({ person, params, note }) => {
    note((await requireMember(db, person.team, params.person)).name);
    await db.transaction((tx) => removeAllFactors(tx, params.person));
    return done;
  });
}
