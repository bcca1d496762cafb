/**
 * Where the database may be found: a primary, and standbys that may be promoted in its place (PostgreSQL manual,
 * chapter 27). Of several, the one is taken that takes changes; of two that do, the one that was promoted later.
 */
import pg from 'pg';
import { runWithin } from '../within.ts';

export interface DatabasePlaces {
  /** Where it is, as last found. */
  url(): string;
  /** Looks for it again; where none takes changes, it stays as it was. */
  findPrimary(): Promise<void>;
}

const ANSWERS_WITHIN_MS = 1500;

export function createDatabasePlaces(urls: readonly string[]): DatabasePlaces {
  const [first] = urls;
  if (first === undefined) throw new RangeError('a database has an address');
  let current = first;
  return {
    url: () => current,
    async findPrimary() {
      if (urls.length === 1) return;
      const found = await Promise.all(urls.map(readTimeline));
      const newest = Math.max(...found);
      const at = found.indexOf(newest);
      if (newest > 0) current = urls[at] ?? current;
    },
  };
}

/** Which of them takes changes now; the first one where none does, whose own error says why. */
export async function findPrimary(urls: readonly string[]): Promise<string> {
  const places = createDatabasePlaces(urls);
  await places.findPrimary();
  return places.url();
}

/**
 * The timeline a server writes, which counts up with every promotion (PostgreSQL manual, section 26.3.6); 0 for a
 * standby, and for one that does not answer.
 */
async function readTimeline(url: string): Promise<number> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: ANSWERS_WITHIN_MS });
  client.on('error', () => {});
  try {
    const { rows } = await runWithin(
      ANSWERS_WITHIN_MS,
      client.connect().then(() =>
        client.query<{ timeline: string | null }>(
          // The first eight digits of the name of what is written now.
          `select case when pg_is_in_recovery() then null else left(pg_walfile_name(pg_current_wal_lsn()), 8) end as timeline`,
        ),
      ),
    );
    return parseInt(rows[0]?.timeline ?? '0', 16);
  } catch {
    return 0;
  } finally {
    void client.end().catch(() => {});
  }
}
