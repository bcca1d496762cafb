/** Days in UTC, as registries and logs count them. Reckoned, since the core has no clock and so no Date. */
/** A day (ISO 8601): `2028-03-03`, for years of four digits. */
export function formatIsoDay(ms: number): string {
  const { year, month, dayOfMonth } = splitDate(ms);
  return `${year}-${String(month + 1).padStart(2, '0')}-${String(dayOfMonth).padStart(2, '0')}`;
}

/** Days since 1970 to a date of the Gregorian calendar, by eras of 400 years that start in March (common practice). */
function splitDate(ms: number): {
  readonly year: number;
  /** From 0. */ readonly month: number;
  readonly dayOfMonth: number;
} {
  const days = Math.floor(ms / 86_400_000) + 719_468; // from 1 March of the year 0
  const era = Math.floor(days / 146_097);
  const ofEra = days - era * 146_097;
  const yearOfEra = Math.floor(
    (ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const fromMarch = Math.floor((5 * ofYear + 2) / 153);
  const month = (fromMarch + 2) % 12;
  return {
    year: yearOfEra + era * 400 + (month < 2 ? 1 : 0),
    month,
    dayOfMonth: ofYear - Math.floor((153 * fromMarch + 2) / 5) + 1,
  };
}
