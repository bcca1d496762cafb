/** Hosting plans held against what a site needs. Money is whole cents. */
import { planLack, type PlanLackMessage } from './messages.ts';

export interface Plan {
  readonly id: string;
  readonly name: string;
  readonly currency: string;
  readonly monthlyCents: number;
  readonly setUpCents: number;
  /** The set-up fee is waived from this many months on; common practice is 12. */
  readonly setUpWaivedFromMonths: number;
  readonly sites: number;
  readonly storageBytes: number;
  readonly files: number;
  readonly ownDomain: boolean;
  readonly certificate: boolean;
  readonly password: boolean;
  /** Days for which backups are kept; 0: none. */
  readonly backupDays: number;
  /** What the provider promises, in percent of a month. */
  readonly uptimePercent: number;
}

export interface SiteNeeds {
  readonly files: number;
  readonly bytes: number;
  readonly ownDomain: boolean;
  readonly certificate: boolean;
  readonly password: boolean;
  readonly backups: boolean;
}

export interface PlanFit {
  readonly fits: boolean;
  /** Each thing the plan lacks. */
  readonly lacks: readonly PlanLackMessage[];
  readonly usedPercent: number;
}

/**
 * Published releases stay at the host until they are swept, so a site needs room for the one that is
 * live and the one that is coming; hence twice its bytes and files.
 */
export const RELEASES_AT_ONCE = 2;

export function fitOf(plan: Plan, needs: SiteNeeds): PlanFit {
  const bytes = needs.bytes * RELEASES_AT_ONCE;
  const files = needs.files * RELEASES_AT_ONCE;
  const lacks: PlanLackMessage[] = [];
  if (plan.sites < 1) lacks.push(planLack('site-of-its-own'));
  if (bytes > plan.storageBytes) lacks.push(planLack('storage'));
  if (files > plan.files) lacks.push(planLack('files', { most: plan.files, needed: files }));
  if (needs.ownDomain && !plan.ownDomain) lacks.push(planLack('own-domain'));
  if (needs.certificate && !plan.certificate) lacks.push(planLack('certificate'));
  if (needs.password && !plan.password) lacks.push(planLack('password'));
  if (needs.backups && plan.backupDays === 0) lacks.push(planLack('backups'));
  return {
    fits: lacks.length === 0,
    lacks,
    usedPercent: Math.min(100, Math.max((100 * bytes) / plan.storageBytes, (100 * files) / plan.files)),
  };
}

export interface PlanCost {
  readonly months: number;
  readonly setUpCents: number;
  readonly totalCents: number;
  readonly perMonthCents: number;
}

export function planCost(plan: Plan, months: number): PlanCost {
  const setUpCents = months >= plan.setUpWaivedFromMonths ? 0 : plan.setUpCents;
  const totalCents = setUpCents + months * plan.monthlyCents;
  return { months, setUpCents, totalCents, perMonthCents: Math.ceil(totalCents / months) };
}

/** Minutes a month of 30 days in which the promise allows the site to be away: 99.9 % is 43.2. */
export function computeDownMinutesPerMonth(uptimePercent: number): number {
  return Math.round((100 - uptimePercent) * 30 * 24 * 60) / 100;
}
