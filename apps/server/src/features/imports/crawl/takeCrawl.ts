/** A crawl asked for by a person; the job does it. */
import type { Deps } from '../../../deps.ts';
import { enqueue } from '../../../jobs/queue.ts';
import { readStart } from './start.ts';

export async function takeCrawl(
  deps: Deps,
  request: { site: string; by: string; address: string },
): Promise<{ import: string; job: string }> {
  const start = readStart(request.address);
  return deps.db.transaction(async (tx) => {
    const { id } = await tx.one<{ id: string }>(
      `insert into import (site_id, state, file_name, size_bytes, crawled_from, created_by) values ($1, 'waiting', $2, 0, $3, $4) returning id`,
      [request.site, start.host, start.href, request.by],
    );
    return {
      import: id,
      job: await enqueue(tx, {
        kind: 'import',
        site: request.site,
        body: { import: id, crawl: start.href },
        by: request.by,
      }),
    };
  });
}
