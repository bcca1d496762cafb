/** A certificate's life: how long it lasts, when it is renewed, when a failed order is tried again. */
export const DAY_MS = 86_400_000;

/** With a third of its life left; common practice, and what RFC 9773 section 4.2 lets a client fall back to. */
export function renewAtMs(notBeforeMs: number, notAfterMs: number): number {
  return notAfterMs - Math.floor((notAfterMs - notBeforeMs) / 3);
}

/** Pauses after failed orders grow from a minute fourfold up to a day, so that an authority's limits are kept. */
export function retryAfterMs(attempts: number): number {
  return Math.min(DAY_MS, 60_000 * 4 ** Math.max(0, attempts - 1));
}

/** Whole and part days; negative when it is over. */
export function countDaysLeft(notAfterMs: number, nowMs: number): number {
  return Math.floor(((notAfterMs - nowMs) / DAY_MS) * 10) / 10;
}

/** Whether a certificate's name covers a host: the same, or a wildcard for exactly one label (RFC 9525 section 6.3). */
export function covers(certificateName: string, host: string): boolean {
  const pattern = certificateName.toLowerCase();
  if (pattern === host) return true;
  return pattern.startsWith('*.') && host.includes('.') && host.slice(host.indexOf('.') + 1) === pattern.slice(2);
}
