/** Icons from one picture. Sizes and names are common practice; the manifest is the W3C's Web Application Manifest. */
import { reason } from '@fastigium/contracts/messages/reason';
import type { Part } from '@fastigium/core/messages';
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { type Decision, type IconFile } from '@fastigium/core/site';
import { checkSvg } from '@fastigium/core/picture';
import ico from 'ico-endec';
import type { Readable } from 'node:stream';
import sharp from 'sharp';
import type { Deps } from '../../deps.ts';
import { readWholeStream } from '../../http/wholeStream.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { readLatestDraft, readSiteState } from '../draft/history.ts';
import { recordDecision } from '../draft/record.ts';

const MOST_BYTES = 20 * 1024 * 1024; // 20 MiB
/** Decoding costs four bytes a pixel, whatever the file is. */
const MOST_PIXELS = 36_000_000;
const LEAST_PX = 192;
const ICO_SIZES = [16, 32, 48];
/** What stays when a launcher cuts a maskable icon to its shape: a circle of four fifths (Web Application Manifest, "Icon masks"). */
const SAFE_SHARE = 0.8;
const PAPER = '#ffffff';

type Made = {
  readonly path: string;
  readonly bytes: Uint8Array;
  readonly relation?: string;
  readonly attributes?: Record<string, string>;
};

export async function makeIcons(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  { version, fileName, stream }: { version: number; fileName: string; stream: Readable },
) {
  const picture = await readWholeStream(stream, MOST_BYTES);
  const drawn = await drawIcons(picture);
  return deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== version) throw new DomainError('draft-stale');
    const draft = await readLatestDraft(tx, site);
    const text = (name: string) => {
      const set = draft.head.get(`everywhere ${name}`)?.text;
      return typeof set === 'string' ? set : undefined;
    };
    const made: Made[] = [
      ...drawn,
      {
        path: 'site.webmanifest',
        relation: 'manifest',
        bytes: Buffer.from(writeManifest(text('name') ?? state.name, text('meta:theme-color'))),
      },
    ];
    const files = made.map(({ path, bytes, relation, attributes }): IconFile & { bytes: Uint8Array } => ({
      path,
      bytes,
      hash: hashSha256(bytes),
      sizeBytes: bytes.length,
      relation,
      attributes: attributes ?? {},
    }));
    await keepContents(tx, files, null);
    const decision: Decision = {
      kind: 'icons',
      icons: files.map(({ path, hash, sizeBytes, relation, attributes }) => ({
        path,
        hash,
        sizeBytes,
        relation,
        attributes,
      })),
    };
    const message = fileName === '' ? decided('icons-made-of-picture') : decided('icons-made', { file: fileName });
    return { version: await recordDecision(tx, state, by, decision, message), message, made: null };
  });
}

const refuse = (why: Part, cause?: unknown): never => {
  throw new DomainError('icon-unusable', { why }, cause === undefined ? {} : { cause });
};

const refuseTooManyPixels = () => reason('too-many-pixels', { millions: MOST_PIXELS / 1_000_000 });

export async function drawIcons(picture: Buffer): Promise<Made[]> {
  if (picture.length === 0) throw new DomainError('upload-empty');
  const isSvg =
    /^\s*(?:\ufeff)?(?:<\?xml[^>]*>\s*)?(?:<!--[\s\S]*?-->\s*|<!DOCTYPE[^>[]*(?:\[[^\]]*\]\s*)?>\s*)*<svg[\s>]/i.test(
      picture.subarray(0, 4096).toString('utf8'),
    );
  const fault = isSvg ? checkSvg(picture.toString('utf8')) : undefined;
  if (fault !== undefined) refuse(fault);
  const read = () =>
    sharp(picture, { limitInputPixels: MOST_PIXELS, failOn: 'error', ...(isSvg ? { density: 300 } : {}) });
  const facts = await read()
    .metadata()
    .catch((error: unknown) =>
      refuse(/pixel limit/i.test(String(error)) ? refuseTooManyPixels() : reason('no-picture'), error),
    );
  const format = facts.format;
  if (!isSvg && !['png', 'jpeg', 'webp', 'gif', 'avif', 'tiff'].includes(format))
    refuse(reason('other-format', { format }));
  if ((facts.pages ?? 1) > 1) refuse(reason('moves'));
  if (facts.width * facts.height > MOST_PIXELS) refuse(refuseTooManyPixels());
  if (!isSvg && Math.min(facts.width, facts.height) < LEAST_PX)
    refuse(reason('too-small', { width: facts.width, height: facts.height }));
  // A picture that is not square stands in the middle of one, whole.
  const square = (size: number) =>
    read()
      .rotate()
      .resize(size, size, { fit: 'contain', background: { r: 0, g: 0, b: 0, alpha: 0 } })
      .png({ compressionLevel: 9 })
      .toBuffer();
  const padded = async (size: number, share: number) => {
    const inner = Math.round(size * share);
    return sharp({ create: { width: size, height: size, channels: 4, background: PAPER } })
      .composite([{ input: await square(inner), gravity: 'centre' }])
      .png({ compressionLevel: 9 })
      .toBuffer();
  };
  const drawn = async () => ({
    bundle: ico.encode(await Promise.all(ICO_SIZES.map(async (size) => Uint8Array.from(await square(size)).buffer))),
    touch: await padded(180, 0.9),
    small: await square(192),
    large: await square(512),
    maskable: await padded(512, SAFE_SHARE * Math.SQRT1_2),
  });
  const { bundle, touch, small, large, maskable } = await drawn().catch((error: unknown) =>
    refuse(reason('damaged'), error),
  );
  return [
    { path: 'favicon.ico', bytes: Buffer.from(bundle), relation: 'icon', attributes: { sizes: '16x16 32x32 48x48' } },
    ...(isSvg
      ? [{ path: 'icon.svg', bytes: picture, relation: 'icon', attributes: { type: 'image/svg+xml', sizes: 'any' } }]
      : [
          { path: 'icon-192.png', bytes: small, relation: 'icon', attributes: { type: 'image/png', sizes: '192x192' } },
        ]),
    ...(isSvg ? [{ path: 'icon-192.png', bytes: small }] : []),
    { path: 'apple-touch-icon.png', bytes: touch, relation: 'apple-touch-icon', attributes: { sizes: '180x180' } },
    { path: 'icon-512.png', bytes: large },
    { path: 'icon-maskable-512.png', bytes: maskable },
  ];
}

/** Its icons stand beside it, so it holds under whatever path the site is. */
function writeManifest(name: string, colour: string | undefined): string {
  return `${JSON.stringify(
    {
      name,
      icons: [
        { src: 'icon-192.png', sizes: '192x192', type: 'image/png' },
        { src: 'icon-512.png', sizes: '512x512', type: 'image/png' },
        { src: 'icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
      ],
      ...(colour === undefined ? {} : { theme_color: colour }),
      start_url: './',
      display: 'browser',
    },
    undefined,
    2,
  )}\n`;
}
