/**
 * The audit trail: who did what, from where, and how it ended. An act is written down before it is done, so that none
 * is missing; where this cannot be written, it is not done.
 */
import type { TrailEntry } from '@fastigium/contracts/api/trail';
import type { TrailKind } from '@fastigium/contracts/endpoint';
import { act, type ActMessage } from '@fastigium/contracts/messages/act';
import type { Part } from '@fastigium/core/messages';
import type { Queries } from '../../db/database.ts';

export interface TrailAct {
  readonly team: string;
  readonly kind: TrailKind;
  readonly what: ActMessage;
  readonly person?: string | undefined;
  /** A name, or the address somebody gave for themselves. */
  readonly who: string;
  /** Network address; empty for the command line. */
  readonly address: string;
  /** Id of the request. */
  readonly request: string;
  readonly site?: string | undefined;
}

export interface BegunAct {
  /** @param outcome `done`, or the code of an error */
  end(outcome: string, about?: Part): Promise<void>;
}

export async function beginAct(queries: Queries, begun: TrailAct): Promise<BegunAct> {
  const { id } = await queries.one<{ id: string }>(
    `insert into trail (team_id, kind, act, person_id, who, address, request, site_id, site_name)
     values ($1, $2, $3, $4, $5, $6, $7, $8, (select name from site where id = $8)) returning id`,
    [
      begun.team,
      begun.kind,
      JSON.stringify(begun.what),
      begun.person ?? null,
      begun.who,
      begun.address,
      begun.request,
      begun.site ?? null,
    ],
  );
  return {
    async end(outcome, about) {
      await queries.run('update trail set outcome = $2, about = $3 where id = $1', [
        id,
        outcome,
        about === undefined ? null : JSON.stringify(about),
      ]);
    },
  };
}

/** What has happened already, in one. */
export async function writeAct(queries: Queries, done: TrailAct, outcome: string, about?: Part): Promise<void> {
  await (await beginAct(queries, done)).end(outcome, about);
}

export interface TrailQuery {
  readonly kind?: TrailKind | undefined;
  /** Only those that began before this number. */
  readonly before?: number | undefined;
}

/** The newest first. */
export async function readTrail(
  queries: Queries,
  team: string,
  { kind, before }: TrailQuery,
  most: number,
): Promise<TrailEntry[]> {
  const rows = await queries.many<
    Omit<TrailEntry, 'at' | 'what'> & { at: Date; act: ActMessage | null; what: string | null }
  >(
    `select id::int8::float8 as number, at, kind, act, what, who, address, request, site_name as site, about, outcome from trail
      where team_id = $1 and ($2::text is null or kind = $2) and ($3::bigint is null or id < $3) order by id desc limit $4`,
    [team, kind ?? null, before ?? null, most],
  );
  return rows.map(({ at, act: kept, what, ...row }) => ({
    ...row,
    what: kept ?? act('as-written', { text: what ?? '' }),
    at: at.toISOString(),
  }));
}
