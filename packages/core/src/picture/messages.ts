/** Why an SVG is not taken. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const svgFault = defineMessages('svg', {
  entities: {},
  damaged: {},
  /** `<script>` */
  acts: { element: 'text' },
  script: { attribute: 'text' },
  loads: {},
  refers: {},
});
export type SvgFault = MessageOf<typeof svgFault>;
