export {
  LogCounts,
  OUTCOMES,
  judgeOutcome,
  OWN_AGENT,
  type AddressCount,
  type HourCount,
  type Outcome,
} from './logCounts.ts';
export { countRuleUse, type AskedAddress, type RuleUse } from './ruleUse.ts';
export {
  reckonAllowedMinutes,
  computeQuantile,
  reckonUptime,
  reckonUptimePercent,
  type Outage,
  type Probe,
  type Uptime,
} from './uptime.ts';
export { alert, outage, type AlertMessage, type OutageMessage } from './messages.ts';
export { isSpike, LEAST_OF_A_SPIKE, computeMedian } from './spike.ts';
export {
  deriveAlerts,
  CERTIFICATE_DAYS,
  COMES_DOWN_DAYS,
  REGISTRATION_DAYS,
  type Alert,
  type AlertFacts,
  type AlertKind,
} from './alerts.ts';
