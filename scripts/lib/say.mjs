/** Plain lines for people who run a command. */
export const say = (line) => console.log(line);

/** Ends the command with what went wrong and the way out. */
export class Stop extends Error {}

export function endWith(error) {
  console.error(error instanceof Stop ? `\n${error.message}` : error);
  process.exit(1);
}
