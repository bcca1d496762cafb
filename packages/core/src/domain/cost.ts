/** What a name costs over its years. Money is whole cents, so that sums are exact. */
export interface NamePrice {
  readonly currency: string;
  /** The first year, when the name is registered. */
  readonly firstYearCents: number;
  /** Each year after it. */
  readonly renewalCents: number;
  /** A year of keeping the owner's address out of the public register; 0 where it is included. */
  readonly privacyCents: number;
  /** Taken off the whole for each year beyond the first that is paid at once, in percent. */
  readonly longTermPercent: number;
}

export interface NameCost {
  readonly years: number;
  readonly totalCents: number;
  readonly perYearCents: number;
  readonly renewalCents: number;
  readonly privacyCents: number;
}

export const COST_YEARS = [1, 2, 5] as const;

/** Halves of a cent are rounded up, in the registrar's favour, so that no promise is too low. */
export function reckonCost(price: NamePrice, years: number, withPrivacy: boolean): NameCost {
  const name = price.firstYearCents + (years - 1) * price.renewalCents;
  const discount = Math.floor((name * price.longTermPercent * (years - 1)) / 100);
  const privacyCents = withPrivacy ? years * price.privacyCents : 0;
  const totalCents = name - discount + privacyCents;
  return {
    years,
    totalCents,
    perYearCents: Math.ceil(totalCents / years),
    renewalCents: price.renewalCents + (withPrivacy ? price.privacyCents : 0),
    privacyCents,
  };
}
