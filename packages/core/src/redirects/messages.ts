/** How a live way differs from the one that was published. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const liveWay = defineMessages('live-way', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  'no-answer': { reason: 'text' },
  'ends-before': { address: 'text' },
  status: { address: 'text', found: 'number', published: 'number' },
  'leads-elsewhere': { found: 'text', published: 'text' },
  'leads-nowhere': { published: 'text' },
  'leads-on': { to: 'text' },
  differs: {},
});
export type LiveWayMessage = MessageOf<typeof liveWay>;
