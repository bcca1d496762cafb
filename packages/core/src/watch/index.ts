export {
  LogCounts,
  OUTCOMES,
  outcomeOf,
  OWN_AGENT,
  type AddressCount,
  type HourCount,
  type Outcome,
} from './logCounts.ts';
export { ruleUse, type AskedAddress, type RuleUse } from './ruleUse.ts';
export { allowedMinutes, quantile, uptime, uptimePercent, type Outage, type Probe, type Uptime } from './uptime.ts';
export { alert, outage, type AlertMessage, type OutageMessage } from './messages.ts';
export { isSpike, LEAST_OF_A_SPIKE, median } from './spike.ts';
export {
  alertsOf,
  CERTIFICATE_DAYS,
  COMES_DOWN_DAYS,
  REGISTRATION_DAYS,
  type Alert,
  type AlertFacts,
  type AlertKind,
} from './alerts.ts';
