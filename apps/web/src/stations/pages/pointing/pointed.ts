/** What a preview to point at says was clicked. The page in it is not ours, so nothing of it is believed but two numbers. */
export function readPointed(data: unknown): { readonly start: number; readonly child: number | null } | undefined {
  if (typeof data !== 'object' || data === null || !('fastigium' in data) || data.fastigium !== 'pointed')
    return undefined;
  const { start, child } = data as { start?: unknown; child?: unknown };
  const isCount = (value: unknown): value is number =>
    typeof value === 'number' && Number.isInteger(value) && value >= 0;
  if (!isCount(start) || (child !== null && !isCount(child))) return undefined;
  return { start, child };
}
