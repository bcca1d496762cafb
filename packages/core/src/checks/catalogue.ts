/** All checks, by their codes. */
import type { Check } from './check.ts';
import { PAGE_CHECKS } from './page/index.ts';
import { deadAnchor, deadLink } from './site/deadLinks.ts';
import { doubledDescription, doubledTitle } from './site/doubled.ts';
import { doubledPicture, heavyPicture, nameCase, samplePicture, secretFile } from './site/files.ts';
import { HEAD_CHECKS } from './site/heads.ts';
import { orphanPage, shutSite } from './site/reach.ts';
import { REDIRECT_CHECKS } from './site/redirects.ts';
import { listingContent, listingUnreached, menuDiffers } from './site/structure.ts';

/** What must be fixed first, then by how much a visitor notices. */
export const ALL_CHECKS: readonly Check[] = [
  secretFile,
  shutSite,
  ...PAGE_CHECKS,
  deadLink,
  deadAnchor,
  listingUnreached,
  listingContent,
  menuDiffers,
  orphanPage,
  doubledTitle,
  doubledDescription,
  ...HEAD_CHECKS,
  ...REDIRECT_CHECKS,
  samplePicture,
  doubledPicture,
  heavyPicture,
  nameCase,
];

/** Codes of the checks of what is worked on under Metadata. */
export const METADATA_CODES: readonly string[] = ALL_CHECKS.map(({ code }) => code).filter((code) =>
  /^(title|description|head|language|canonical|data|share|sitemap)-/.test(code),
);

const BY_CODE = new Map<string, Check>(ALL_CHECKS.map((check) => [check.code, check]));

export function checkOf(code: string): Check | undefined {
  return BY_CODE.get(code);
}
