/** What a decision about the draft did, for the history and for whoever is asked to look at it again. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';
import { addressMessages } from '../decisions/addresses.ts';
import { exportMessages } from '../decisions/exports.ts';
import { headMessages } from '../decisions/head.ts';
import { listMessages } from '../decisions/lists.ts';
import { pageMessages } from '../decisions/pages.ts';
import { redirectMessages } from '../decisions/redirects.ts';
import { removalMessages } from '../decisions/removals.ts';
import { stepMessages } from '../decisions/steps.ts';
import { touchMessages } from '../decisions/touches.ts';
import { treeMessages } from '../decisions/tree.ts';
import { visitorMessages } from '../decisions/visitors.ts';

export const decision = defineMessages('decision', {
  ...addressMessages,
  ...exportMessages,
  ...headMessages,
  ...listMessages,
  ...pageMessages,
  ...redirectMessages,
  ...removalMessages,
  ...stepMessages,
  ...touchMessages,
  ...treeMessages,
  ...visitorMessages,
});
export type DecisionMessage = MessageOf<typeof decision>;
