/** Text for XML. Source: XML 1.0, fifth edition. */

/** Letters that XML cannot hold (section 2.2) are left out, lone surrogates among them; the rest is escaped (section 2.4). */
export function escapeXml(text: string): string {
  return text
    .replace(
      /[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
      '',
    )
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');
}
