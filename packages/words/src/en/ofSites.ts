/** What is said of sites. */
import type { Catalogue } from '../catalogue.ts';
import {
  certificateWords,
  hostWords,
  mailWords,
  nameFaultWords,
  nameFoundWords,
  zoneFaultWords,
  nameScoreWords,
  planLackWords,
  recordNoteWords,
  recordStepWords,
  resolvedWords,
} from './address.ts';
import { actAboutWords, actWords } from './act.ts';
import { errorWords } from './error.ts';
import { reasonWords } from './reason.ts';
import { answerWords } from './answer.ts';
import { changeWords } from './change.ts';
import { checkWords, mendWords, questionWords, remedyWords } from './check.ts';
import { decisionWords } from './decision.ts';
import { alertWords, findingWords, headProofWords, liveWayWords, outageWords, toldWords } from './live.ts';
import { lineWords, menuWords, thingWords, whereWords } from './names.ts';
import { noticeWords } from './notice.ts';
import { languageTagWords, markupWords, securityTxtWords, structuredWords, svgWords } from './writing.ts';
import { linkWords, meaningWords, measuredWords, standingWords } from './reach.ts';
import { patternWords, ruleFaultWords, unreadWords, unsaidWords } from './redirect.ts';
import { stepWords } from './progress.ts';
import { menuPartWords, puttingBackWords, standInWords, stoodWords } from './removal.ts';
import { snagWords } from './snag.ts';
import { importNoteWords } from './importNote.ts';
import { touchWords } from './touch.ts';

export const ofSites: Catalogue<string> = {
  error: errorWords,
  reason: reasonWords,
  act: actWords,
  'act-about': actAboutWords,
  alert: alertWords,
  answer: answerWords,
  certificate: certificateWords,
  change: changeWords,
  check: checkWords,
  decision: decisionWords,
  finding: findingWords,
  host: hostWords,
  'import-note': importNoteWords,
  mail: mailWords,
  'name-fault': nameFaultWords,
  'zone-fault': zoneFaultWords,
  'name-found': nameFoundWords,
  'name-score': nameScoreWords,
  'record-note': recordNoteWords,
  'record-step': recordStepWords,
  resolved: resolvedWords,
  'head-proof': headProofWords,
  'language-tag': languageTagWords,
  line: lineWords,
  markup: markupWords,
  link: linkWords,
  'live-way': liveWayWords,
  meaning: meaningWords,
  measured: measuredWords,
  pattern: patternWords,
  'rule-fault': ruleFaultWords,
  unread: unreadWords,
  unsaid: unsaidWords,
  menu: menuWords,
  mend: mendWords,
  'menu-part': menuPartWords,
  notice: noticeWords,
  outage: outageWords,
  'plan-lack': planLackWords,
  'putting-back': puttingBackWords,
  question: questionWords,
  remedy: remedyWords,
  'security-txt': securityTxtWords,
  snag: snagWords,
  'stand-in': standInWords,
  standing: standingWords,
  step: stepWords,
  stood: stoodWords,
  structured: structuredWords,
  svg: svgWords,
  thing: thingWords,
  told: toldWords,
  touch: touchWords,
  where: whereWords,
};
