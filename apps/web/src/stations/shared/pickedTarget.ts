/** Where something leads, as a person picks it. */
export type PickedTarget =
  /** Whichever page is home. */
  | { readonly kind: 'home' }
  | {
      readonly kind: 'page';
      readonly page: string;
      /** Element in it. */ readonly fragment?: string | undefined;
      /** Not the page, which is a list, but the newest entry in it. */ readonly newest?: true | undefined;
    }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string }
  /** It heads what is below it, or leads nowhere yet. */
  | { readonly kind: 'none' };

/** Where something leads that leads anywhere at all. */
export type LeadingTarget = Exclude<PickedTarget, { kind: 'none' }>;

/** What a person writes instead of choosing a page: a whole URL, or an address of this site. */
export function readTypedTarget(text: string): LeadingTarget | undefined {
  const typed = text.trim();
  if (/^https?:\/\/[^/\s]/i.test(typed)) return { kind: 'url', url: typed };
  return typed.startsWith('/') ? { kind: 'address', address: typed } : undefined;
}
