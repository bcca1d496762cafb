/** Where countries are: the middle of each, from the world-countries data (ODbL 1.0). */
import countries from 'world-countries';

export interface Country {
  /** ISO 3166-1 alpha-2. */
  readonly code: string;
  readonly name: string;
  readonly latitude: number;
  readonly longitude: number;
}

const all = new Map<string, Country>(
  countries.map(({ cca2, name, latlng }) => [
    cca2,
    { code: cca2, name: name.common, latitude: latlng[0], longitude: latlng[1] },
  ]),
);

export const listCountries = (): Country[] => [...all.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
export const findCountry = (code: string): Country | undefined => all.get(code);
