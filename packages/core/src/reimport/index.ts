export { computeAlikeness, computeFingerprint, FINGERPRINT_LENGTH } from './fingerprint.ts';
export { matchPages, type ExportPage, type KnownPage, type Matching } from './match.ts';
