/** Saving what was written: one file as it is, several as an archive. */
import { downloadZip } from 'client-zip';

export async function saveFiles(
  name: string,
  files: readonly { readonly name: string; readonly text: string }[],
): Promise<void> {
  const [only] = files;
  if (!only) return;
  if (files.length === 1) save(only.name, new Blob([only.text], { type: 'text/plain' }));
  else save(`${name}.zip`, await downloadZip(files.map((file) => ({ name: file.name, input: file.text }))).blob());
}

function save(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken it by the next turn.
  setTimeout(() => URL.revokeObjectURL(url), 0);
}
