/**
 * How far the host is from its visitors, and the least time light takes for it.
 * Sources: great-circle distance by the haversine formula on a sphere of the mean earth radius
 * 6371.0088 km (IUGG); light in fibre at two thirds of its speed in vacuum, 299,792.458 km/s (common
 * practice: a refractive index near 1.5).
 */
export interface Place {
  /** Degrees, north and east positive. */
  readonly latitude: number;
  readonly longitude: number;
}

const EARTH_RADIUS_KM = 6371.0088;
const LIGHT_IN_FIBRE_KM_PER_MS = (299_792.458 * 2) / 3 / 1000;

export function computeGreatCircleKm(a: Place, b: Place): number {
  const radians = Math.PI / 180;
  const dLat = (b.latitude - a.latitude) * radians;
  const dLon = (b.longitude - a.longitude) * radians;
  const h =
    Math.sin(dLat / 2) ** 2 + Math.cos(a.latitude * radians) * Math.cos(b.latitude * radians) * Math.sin(dLon / 2) ** 2;
  return 2 * EARTH_RADIUS_KM * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** No connection can answer faster: there and back along the great circle. */
export function computeLeastRoundTripMs(km: number): number {
  return (2 * km) / LIGHT_IN_FIBRE_KM_PER_MS;
}

export interface VisitorGroup extends Place {
  readonly country: string;
  /** Any number in proportion to the visits; all equal where they are not known. */
  readonly weight: number;
}

/** Mean distance and least round trip over the visitors, by their weight. */
export function computeDistanceToVisitors(
  region: Place,
  visitors: readonly VisitorGroup[],
): { km: number; leastRoundTripMs: number } | undefined {
  const total = visitors.reduce((sum, { weight }) => sum + weight, 0);
  if (total <= 0) return undefined;
  const km = visitors.reduce((sum, group) => sum + group.weight * computeGreatCircleKm(region, group), 0) / total;
  return { km, leastRoundTripMs: computeLeastRoundTripMs(km) };
}
