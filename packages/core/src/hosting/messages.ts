/** What a plan has not that a site needs. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const planLack = defineMessages('plan-lack', {
  'site-of-its-own': {},
  storage: {},
  files: { most: 'number', needed: 'number' },
  'own-domain': {},
  certificate: {},
  password: {},
  backups: {},
});
export type PlanLackMessage = MessageOf<typeof planLack>;
