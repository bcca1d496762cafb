/** Where something leads, as a person picks it. */
export type PickedTarget =
  | { readonly kind: 'page'; readonly page: string }
  | { readonly kind: 'address'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string };

/** What a person writes instead of choosing a page: a whole URL, or an address of this site. */
export function typedTarget(text: string): PickedTarget | undefined {
  const typed = text.trim();
  if (/^https?:\/\/[^/\s]/i.test(typed)) return { kind: 'url', url: typed };
  return typed.startsWith('/') ? { kind: 'address', address: typed } : undefined;
}
