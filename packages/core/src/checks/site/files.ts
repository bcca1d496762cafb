/** Checks of files by their names, sizes and contents. */
import type { PictureSize } from '../../picture/index.ts';
import type { Check } from '../check.ts';

export const secretFile: Check = {
  code: 'file-secret',
  severity: 'must',
  source: 'common practice',
};

/** Keys, dumps, environment files, repositories, and what editors and computers leave lying about. */
const SECRET: readonly [RegExp, string][] = [
  [/(^|\/)\.env(\.[\w.-]+)?$/i, 'settings with passwords'],
  [/(^|\/)(id_(rsa|dsa|ecdsa|ed25519)|[^/]+\.(pem|key|pfx|p12|jks|keystore|ppk))$/i, 'a private key'],
  [/\.(sql|sql\.gz|dump|sqlite3?|mdb|bak\.zip)$/i, 'a copy of a database'],
  [/(^|\/)\.(git|svn|hg|bzr)(\/|$)/i, 'a repository, with everything that ever was in it'],
  [
    /(^|\/)(\.htpasswd|\.netrc|\.npmrc|\.pgpass|\.my\.cnf|credentials(\.json)?|secrets?\.(json|ya?ml|txt|env))$/i,
    'passwords',
  ],
  [/(~|\.(bak|old|orig|swp|swo|tmp|save))$|(^|\/)(#[^/]+#|\.#[^/]+)$/i, 'a copy an editor left'],
  [/(^|\/)(node_modules|vendor\/bundle|\.idea|\.vscode|\.cache)\//i, 'tools of the workshop'],
  [
    /(^|\/)(docker-compose\.ya?ml|Dockerfile|composer\.lock|package-lock\.json|yarn\.lock|Gemfile\.lock)$/,
    'how the site is built',
  ],
  [/(^|\/)(wp-config|config|configuration|settings)\.php$/i, 'settings with passwords'],
  [/\.log$/i, 'a log'],
];

/** What a file that must not go live is; undefined for all others. */
export function secretKind(path: string): string | undefined {
  return SECRET.find(([pattern]) => pattern.test(path))?.[1];
}

export const nameCase: Check = {
  code: 'name-case',
  severity: 'look',
  source: 'RFC 3986, section 6.2.2.1; common practice',
};

/** Files whose names differ from another's only in case, each with the other ones. */
export function caseTwins(paths: Iterable<string>): Map<string, string[]> {
  const byFolded = new Map<string, string[]>();
  for (const path of paths) {
    const folded = path.toLowerCase();
    byFolded.set(folded, [...(byFolded.get(folded) ?? []), path]);
  }
  return new Map(
    [...byFolded.values()]
      .filter((twins) => twins.length > 1)
      .flatMap((twins) => twins.map((path) => [path, twins.filter((other) => other !== path)] as const)),
  );
}

export const samplePicture: Check = {
  code: 'sample-picture',
  severity: 'look',
  source: 'common practice',
};

export function isSamplePicture(path: string): boolean {
  return (
    /\.(png|jpe?g|gif|webp|avif|svg)$/i.test(path) &&
    /(^|[/_.-])(placeholder|dummy|lorem|sample[-_]?(image|picture|photo|pic)?|stock[-_]?photo|image[-_]?coming[-_]?soon|default[-_]?image)([_.\d-]|$)/i.test(
      path,
    )
  );
}

export const doubledPicture: Check = {
  code: 'picture-doubled',
  severity: 'look',
  source: 'common practice',
};

export const heavyPicture: Check = {
  code: 'picture-heavy',
  severity: 'look',
  source: 'common practice',
};

const HEAVY_BYTES = 500_000;
/** Below this nobody waits, however large the picture is. */
const LIGHT_BYTES = 60_000;
/** Screens show up to about this many dots for each CSS pixel. */
const DENSITY = 2.5;

/** @param shownWidthsPx how wide pages write it to be */
export function heaviness(
  sizeBytes: number,
  size: PictureSize | undefined,
  shownWidthsPx: readonly number[],
): string | undefined {
  const widest = Math.max(0, ...shownWidthsPx);
  if (size && widest > 0 && sizeBytes > LIGHT_BYTES && size.widthPx > widest * DENSITY)
    return `${size.widthPx} pixels wide, shown at ${widest}, ${kilobytes(sizeBytes)}`;
  return sizeBytes > HEAVY_BYTES ? kilobytes(sizeBytes) : undefined;
}

const kilobytes = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
