/** The domain name system: names, records, zone files, what is needed, and when a change reaches everyone. */
export * from './caa.ts';
export * from './changePlan.ts';
export * from './mail.ts';
export * from './messages.ts';
export * from './name.ts';
export * from './needed.ts';
export * from './propagation.ts';
export * from './record.ts';
export { parseIpv4, parseIpv6, quote, readData, RecordProblem, parseTtl, type Word } from './recordData.ts';
export * from './zoneFile.ts';
