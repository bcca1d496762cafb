/** A page that needs nothing else: to be kept, printed and handed on. */
import { LANGUAGE_TAG } from '../../words.ts';

export function writeKeptPage(title: string, body: string): string {
  return `<!doctype html>
<html lang="${LANGUAGE_TAG}">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeText(title)}</title>
<style>
body { font: 14px/1.45 sans-serif; color: #262a2e; margin: 2em auto; max-width: 1100px; padding: 0 1em; }
h1 { font-size: 1.6em; margin-bottom: .2em; }
h2 { font-size: 1.15em; margin: 1.8em 0 .3em; }
.lead { font-size: 1.15em; }
table { border-collapse: collapse; width: 100%; margin-block: 1em; }
th, td { text-align: left; vertical-align: top; border-bottom: 1px solid #ccc; padding: .3em .8em .3em 0; overflow-wrap: anywhere; }
td.figure, th.figure { text-align: right; white-space: nowrap; }
code { font: 12px/1.4 monospace; }
@media print { body { margin: 0; max-width: none; } h2, tr { break-inside: avoid; } }
</style>
<h1>${escapeText(title)}</h1>
${body}
</html>
`;
}

/** Cells are markup already. */
export function writeKeptTable(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const line = (cells: readonly string[]) => `<tr>${cells.map((cell) => `<td>${cell}</td>`).join('')}</tr>`;
  return `<table><thead><tr>${head.map((cell) => `<th>${escapeText(cell)}</th>`).join('')}</tr></thead><tbody>\n${rows.map(line).join('\n')}\n</tbody></table>`;
}

export function escapeText(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
