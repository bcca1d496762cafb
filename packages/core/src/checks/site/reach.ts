import type { Check } from '../check.ts';

export const orphanPage: Check = {
  code: 'page-orphan',
  severity: 'should',
  source: 'common practice',
};

export const shutSite: Check = {
  code: 'site-shut',
  severity: 'must',
  source: 'RFC 9309, section 2.2.2; common practice for the robots meta tag',
};

/** Whether a robots.txt keeps every crawler from the whole site: a group for `*` with nothing but `Disallow: /` (RFC 9309 sections 2.2.1 and 2.2.2). */
export function isShuttingAll(robotsTxt: string): boolean {
  let isForAll = false;
  let inAgents = false;
  let shut = false;
  let open = false;
  for (const raw of robotsTxt.split(/\r\n|\n|\r/)) {
    const [, field = '', value = ''] = /^\s*([\w-]+)\s*:\s*(.*)$/.exec(raw.replace(/#.*/, '')) ?? [];
    const name = field.toLowerCase();
    if (name === 'user-agent') {
      if (!inAgents) isForAll = false;
      inAgents = true;
      isForAll ||= value.trim() === '*';
    } else if (name === 'disallow' || name === 'allow') {
      inAgents = false;
      if (!isForAll || value.trim() === '') continue;
      if (name === 'disallow' && /^\/\*?$/.test(value.trim())) shut = true;
      if (name === 'allow') open = true;
    }
  }
  return shut && !open;
}
