/** Checks of files by their names, sizes and contents. */
import type { PictureSize } from '../../picture/index.ts';
import type { Check } from '../check.ts';
import { snag, type SECRET_KINDS, type SnagMessage } from '../messages.ts';

export const secretFile: Check = {
  code: 'file-secret',
  severity: 'must',
  source: 'common practice',
};

/** Keys, dumps, environment files, repositories, and what editors and computers leave lying about. */
const SECRET: readonly [RegExp, (typeof SECRET_KINDS)[number]][] = [
  [/(^|\/)\.env(\.[\w.-]+)?$/i, 'settings'],
  [/(^|\/)(id_(rsa|dsa|ecdsa|ed25519)|[^/]+\.(pem|key|pfx|p12|jks|keystore|ppk))$/i, 'key'],
  [/\.(sql|sql\.gz|dump|sqlite3?|mdb|bak\.zip)$/i, 'database'],
  [/(^|\/)\.(git|svn|hg|bzr)(\/|$)/i, 'repository'],
  [
    /(^|\/)(\.htpasswd|\.netrc|\.npmrc|\.pgpass|\.my\.cnf|credentials(\.json)?|secrets?\.(json|ya?ml|txt|env))$/i,
    'passwords',
  ],
  [/(~|\.(bak|old|orig|swp|swo|tmp|save))$|(^|\/)(#[^/]+#|\.#[^/]+)$/i, 'leftover'],
  [/(^|\/)(node_modules|vendor\/bundle|\.idea|\.vscode|\.cache)\//i, 'tools'],
  [/(^|\/)(docker-compose\.ya?ml|Dockerfile|composer\.lock|package-lock\.json|yarn\.lock|Gemfile\.lock)$/, 'build'],
  [/(^|\/)(wp-config|config|configuration|settings)\.php$/i, 'settings'],
  [/\.log$/i, 'log'],
];

/** What a file that must not go live is; undefined for all others. */
export function judgeSecret(path: string): SnagMessage | undefined {
  const kind = SECRET.find(([pattern]) => pattern.test(path))?.[1];
  return kind && snag('secret', { kind });
}

export const nameCase: Check = {
  code: 'name-case',
  severity: 'should',
  source: 'RFC 3986, section 6.2.2.1; common practice',
};

/** Files whose names differ from another's only in case, each with the other ones. */
export function findCaseTwins(paths: Iterable<string>): Map<string, string[]> {
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
  severity: 'should',
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
  severity: 'should',
  source: 'common practice',
};

export const heavyPicture: Check = {
  code: 'picture-heavy',
  severity: 'should',
  source: 'common practice',
};

const HEAVY_BYTES = 500_000;
/** Below this nobody waits, however large the picture is. */
const LIGHT_BYTES = 60_000;
/** Screens show up to about this many dots for each CSS pixel. */
const DENSITY = 2.5;

/** @param shownWidthsPx how wide pages write it to be */
export function judgeHeaviness(
  sizeBytes: number,
  size: PictureSize | undefined,
  shownWidthsPx: readonly number[],
): SnagMessage | undefined {
  const widest = Math.max(0, ...shownWidthsPx);
  if (size && widest > 0 && sizeBytes > LIGHT_BYTES && size.widthPx > widest * DENSITY)
    return snag('picture-wide', { width: size.widthPx, shown: widest, size: sizeBytes });
  return sizeBytes > HEAVY_BYTES ? snag('picture-large', { size: sizeBytes }) : undefined;
}
