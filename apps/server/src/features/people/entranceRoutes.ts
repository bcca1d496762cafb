/** Coming in and going out. What strangers do is put on the trail here, once it is known whose it is. */
import { findAct } from '@fastigium/contracts/acts';
import { actAbout } from '@fastigium/contracts/messages/act';
import type { Part } from '@fastigium/core/messages';
import { DomainError, type ErrorCode } from '@fastigium/contracts/errors';
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import type { Endpoint, TrailKind } from '@fastigium/contracts/endpoint';
import type { Request } from 'express';
import type { Deps } from '../../deps.ts';
import type { Caller } from '../../http/caller.ts';
import { createToken, type CsrfTokens } from '../../http/csrf.ts';
import type { Routes } from '../../http/route.ts';
import { nameCookie, enterSession, leaveSession } from '../../http/sessions.ts';
import { writeAct } from '../trail/trail.ts';
import { sendForgotLink } from './forgot.ts';
import { deriveInitials } from '../shared/initials.ts';
import { readPasskeySite } from './passkeySite.ts';
import { requireHard, resetOf, setPassword } from './passwords.ts';
import { createOwner, needsOwner, findPersonByEmail, findPersonById } from './people.ts';
import { isGuessable } from './second/codes.ts';
import { askSecond, takeSecond } from './second/secondFactors.ts';
import { requirePersonOfStep } from './second/steps.ts';
import type { SignIn } from './signIn.ts';
import { announceAccess } from './access.ts';
import { requireInvitation, join } from './team.ts';
import { readRequestId } from '../../http/requestId.ts';

const done = { done: true as const };
const GUESSED: ReadonlySet<ErrorCode> = new Set(['sign-in-wrong', 'second-wrong', 'second-ended']);

export function addEntranceRoutes(
  routes: Routes,
  deps: Deps,
  csrf: CsrfTokens,
  attempts: SignIn,
  demo: (req: Request) => Session['demo'],
): void {
  const { db, threads } = deps;

  const describe = async (
    req: Request,
    person: Caller | undefined,
    second: Session['second'] = null,
  ): Promise<Session> => ({
    person: person
      ? {
          id: person.id,
          name: person.name,
          initials: deriveInitials(person.name),
          email: person.email,
          role: person.role,
        }
      : null,
    csrfToken: csrf.of(req),
    needsOwner: await needsOwner(db),
    demo: person ? null : demo(req),
    hasMail: deps.mail !== undefined,
    second,
  });

  async function enter(req: Request, person: Caller): Promise<Session> {
    await enterSession(req, person.id, createToken());
    return describe(req, person);
  }

  /** Of somebody who is signed in by this, or was not let in. */
  const onTrail = (
    req: Request,
    endpoint: Endpoint,
    kind: TrailKind,
    whose: { readonly id?: string; readonly person?: string; readonly team: string; readonly name: string },
    outcome = 'done',
    about?: Part,
  ) =>
    writeAct(
      db,
      {
        team: whose.team,
        kind,
        what: findAct(endpoint),
        person: whose.id ?? whose.person,
        who: whose.name,
        address: req.ip ?? '',
        request: readRequestId(req),
      },
      outcome,
      about,
    );

  /** Throws as the work does, with the failure on the trail of whoever it was tried as. */
  async function tried<T>(
    req: Request,
    endpoint: Endpoint,
    whose: () => Promise<Caller | undefined>,
    work: () => Promise<T>,
  ): Promise<T> {
    try {
      return await work();
    } catch (error) {
      // Of those that were turned away unlooked at nothing is written: anybody could fill the trail with them.
      if (error instanceof DomainError && GUESSED.has(error.code)) {
        const person = await whose();
        if (person) await onTrail(req, endpoint, 'sign-in', person, error.code);
      }
      throw error;
    }
  }

  routes.open(sessionApi.get, ({ req, person }) => describe(req, person));
  routes.open(sessionApi.signIn, async ({ req, body }) => {
    const person = await tried(
      req,
      sessionApi.signIn,
      () => findPersonByEmail(db, body.email),
      () => attempts.check(body.email, body.password, req.ip ?? ''),
    );
    const second = await askSecond(db, person.id, readPasskeySite(deps.config, req));
    if (second) return describe(req, undefined, second);
    await onTrail(req, sessionApi.signIn, 'sign-in', person);
    return enter(req, person);
  });
  routes.open(sessionApi.second, async ({ req, body }) => {
    const whose = await requirePersonOfStep(db, body.step);
    const { by, person } = await tried(
      req,
      sessionApi.second,
      () => findPersonById(db, whose),
      async () => {
        if (isGuessable(body.code)) await attempts.countSecond(whose, req.ip ?? '');
        return takeSecond(db, deps.seal, body, readPasskeySite(deps.config, req));
      },
    );
    const entering = await findPersonById(db, person);
    if (!entering) throw new DomainError('second-ended');
    await onTrail(req, sessionApi.second, 'sign-in', entering, 'done', actAbout('by-factor', { factor: by }));
    return enter(req, entering);
  });
  routes.open(sessionApi.createOwner, async ({ req, body }) => {
    // Reckoning a hash is dear, so it is not done for whoever comes too late.
    if (!(await needsOwner(db))) throw new DomainError('owner-exists');
    await requireHard(threads, body.password, body);
    const owner = await createOwner(db, body);
    await onTrail(req, sessionApi.createOwner, 'people', owner);
    return enter(req, owner);
  });
  routes.open(sessionApi.signOut, async ({ req, res, person }) => {
    await leaveSession(req);
    if (person) {
      await announceAccess(db, person.id);
      await onTrail(req, sessionApi.signOut, 'sign-in', person);
    }
    res.clearCookie(nameCookie(deps.config.publicSite), { path: '/', secure: deps.config.publicSite.isSecure });
    return done;
  });

  routes.open(peopleApi.invited, async ({ params }) => {
    const { teamName, by, role, until } = await requireInvitation(db, params.token);
    return { team: teamName, by, role, until: until.toISOString() };
  });
  routes.open(peopleApi.join, async ({ req, params, body }) => {
    // The same: a link that is none costs nothing.
    await requireInvitation(db, params.token);
    await requireHard(threads, body.password, body);
    const joined = await join(db, params.token, body);
    await onTrail(req, peopleApi.join, 'people', joined, 'done', actAbout('role', { role: joined.role }));
    return enter(req, joined);
  });
  routes.open(peopleApi.reset, async ({ params }) => {
    const { name, email, until } = await resetOf(db, params.token);
    return { name, email, until: until.toISOString() };
  });
  routes.open(peopleApi.useReset, async ({ req, params, body }) => {
    const whose = await resetOf(db, params.token);
    await requireHard(threads, body.password, whose);
    await setPassword(db, whose.person, body.password, { link: params.token });
    await onTrail(req, peopleApi.useReset, 'account', whose);
    return done;
  });
  routes.open(peopleApi.forgot, async ({ req, body }) => {
    const { mail } = deps;
    if (!mail) throw new DomainError('mail-not-set');
    await attempts.countForgotten(body.email, req.ip ?? '');
    const origin = deps.config.publicSite.origin ?? `http://${req.get('host')}`;
    // Behind the answer, so that its time tells nobody whether there is somebody.
    void sendForgotLink(db, mail, body.email, origin)
      .then((asked) => asked && onTrail(req, peopleApi.forgot, 'account', asked))
      .catch((error: unknown) => req.log.error({ err: error }, 'mail for a new password not sent'));
    return done;
  });
}
