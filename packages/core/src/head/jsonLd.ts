/** Structured data as it stands in a page: JSON-LD 1.1, section 7.2, inside `<script>`. */

/**
 * Text that is safe inside `<script>`: nothing in it ends the element, and no comment opens (HTML standard,
 * section 4.12.1.3), and in encodings that cannot write every letter all others are escapes of JSON.
 */
export function escapeScriptText(json: string, encoding: string): string {
  const safe = json
    .replace(/</g, '\\u003c')
    .replace(/\u2028/g, '\\u2028')
    .replace(/\u2029/g, '\\u2029');
  if (encoding === 'utf-8' || encoding.startsWith('utf-16')) return safe;
  return safe.replace(/[\u0080-\uffff]/g, (unit) => `\\u${unit.charCodeAt(0).toString(16).padStart(4, '0')}`);
}
