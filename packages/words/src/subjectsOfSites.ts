/** Subjects of messages about sites. */
import { certificate, host, nameFound } from '@fastigium/contracts/messages/address';
import { act, actAbout } from '@fastigium/contracts/messages/act';
import { error } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { answer } from '@fastigium/contracts/messages/answer';
import { decision } from '@fastigium/contracts/messages/decision';
import { headProof } from '@fastigium/contracts/messages/headProof';
import { note } from '@fastigium/contracts/messages/importNote';
import { menu, thing, where } from '@fastigium/contracts/messages/names';
import { notice } from '@fastigium/contracts/messages/notice';
import { progressStep } from '@fastigium/contracts/messages/progress';
import { menuPart, puttingBack, standIn, stood } from '@fastigium/contracts/messages/removal';
import { told } from '@fastigium/contracts/messages/told';
import { touch } from '@fastigium/contracts/messages/touch';
import { check, mend, question, remedy, snag } from '@fastigium/core/checks';
import { mail, nameFault, recordNote, recordStep, resolved, zoneFault } from '@fastigium/core/dns';
import { nameScore } from '@fastigium/core/domain/messages';
import { line, markup } from '@fastigium/core/head';
import { planLack } from '@fastigium/core/hosting';
import { finding } from '@fastigium/core/inspection';
import { languageTag } from '@fastigium/core/languages';
import { liveWay, patternFault, ruleFault, unread, unsaid } from '@fastigium/core/redirects';
import { link, meaning, measured, standing } from '@fastigium/core/reach';
import { change } from '@fastigium/core/report';
import { securityTxt } from '@fastigium/core/securityTxt';
import { structured } from '@fastigium/core/structured';
import { svgFault } from '@fastigium/core/picture';
import { alert, outage } from '@fastigium/core/watch';

export const SUBJECTS_OF_SITES = [
  error,
  reason,
  act,
  actAbout,
  alert,
  answer,
  certificate,
  change,
  check,
  decision,
  finding,
  host,
  mail,
  nameFault,
  zoneFault,
  nameFound,
  nameScore,
  recordNote,
  recordStep,
  resolved,
  headProof,
  languageTag,
  line,
  link,
  liveWay,
  patternFault,
  ruleFault,
  unread,
  unsaid,
  markup,
  meaning,
  measured,
  mend,
  menu,
  menuPart,
  note,
  notice,
  outage,
  planLack,
  progressStep,
  puttingBack,
  question,
  remedy,
  securityTxt,
  snag,
  standIn,
  standing,
  stood,
  structured,
  svgFault,
  thing,
  told,
  touch,
  where,
];
