/** What an answer really is, whatever its Content-Type says. */
import { isPageType } from '@fastigium/core/crawl';
import { findMediaType } from '@fastigium/core/release';
import { fileTypeFromBuffer } from 'file-type';

export interface JudgedType {
  readonly type: string;
  /** True where the server named another kind of thing, so that a browser would show it wrongly or not at all. */
  readonly lies: boolean;
}

const LOOKS_LIKE_A_PAGE = /^\s*(?:<!--[\s\S]*?-->\s*)*(?:<!doctype\s+html|<html|<head|<body|<title|<table|<h1)[\s>]/i;
/** Kinds of things that are told apart surely by their first bytes. */
const SIGNED = /^(image\/(?!svg)|audio\/|video\/|font\/|application\/(pdf|zip|gzip|x-rar|x-7z)|text\/html$)/;

/** @param declared media type of the answer, empty where it has none; @param address for its ending */
export async function judgeType(body: Buffer, declared: string, address: string): Promise<JudgedType> {
  const signed = (await fileTypeFromBuffer(body))?.mime as string | undefined;
  const looksLikePage = signed === undefined && LOOKS_LIKE_A_PAGE.test(body.subarray(0, 2048).toString('latin1'));
  // XML is no lie about XHTML, SVG or a feed.
  const found = signed === 'application/xml' ? undefined : looksLikePage ? 'text/html' : signed;
  if (declared === '') return { type: found ?? findMediaType(address.split('?')[0] ?? ''), lies: false };
  if (found === undefined || isPageType(declared) === isPageType(found)) return { type: declared, lies: false };
  return SIGNED.test(declared) ? { type: found, lies: true } : { type: declared, lies: false };
}
