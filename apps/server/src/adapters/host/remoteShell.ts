/**
 * One shell at a server that stays and does what it is given, several things at once: starting one anew costs a server
 * as much as unpacking a thousand files, where the account's own profile is read each time.
 *
 *   us      NAME SIZE COMMAND\n, then SIZE bytes: kept there as the file NAME, which COMMAND reads as its input;
 *           it and whatever COMMAND makes under that name and a dot are gone when it has ended
 *   server  NAME done\n, or NAME failed WORDS\n with what was said on its standard error; in whatever order they end
 *
 * What comes is written to a file first, so that the line is read as fast as it brings: a server that has to hold
 * what nobody takes from it grows its memory in small steps, which was measured to cost more than the file.
 */
import type { Client, ClientChannel } from 'ssh2';

/** What a server has to answer, so that one that starts something else instead is told apart. */
const READY = 'fastigium-ready';
const STARTS_WITHIN_MS = 5000;
const COMPLAINT_CHARS = 500;

export interface RemoteShell {
  /** @param name of a file that is not there; gone again when the command has ended. Rejects with what the server complained of. */
  give(name: string, command: string, input: Buffer): Promise<void>;
}

/** @param setUp of the POSIX shell; whatever it defines is what can be given. Rejects where it fails or the account may run nothing. */
export function openShell(client: Client, setUp: string): Promise<RemoteShell> {
  return new Promise((resolve, reject) => {
    const script = `${setUp}
echo ${READY}
while read -r name size command; do
  head -c "$size" > "$name" || { rm -f "$name"; exit 1; }
  (
    if said=$($command < "$name" 2>&1 >/dev/null); then ended=done; else ended="failed $(printf %s "$said" | tail -c ${COMPLAINT_CHARS} | tr '\\n' ' ')"; fi
    rm -rf "$name" "$name".*
    printf '%s %s\\n' "$name" "$ended"
  ) &
done
wait`;
    // The account's own shell may be any; what it is given is one word for the standard one.
    client.exec(`sh -c ${quoteForShell(script)}`, (error, channel) => {
      if (error) reject(error);
      else startShell(channel, resolve, reject);
    });
  });
}

interface Waiting {
  readonly resolve: () => void;
  readonly reject: (error: Error) => void;
}

/**
 * Bytes on their way that nobody has taken yet. A server may allow more (RFC 4254, section 5.2), but OpenSSH, which
 * allows 2 MiB, was measured to take a quarter of a second for making room for them, 32 KiB at a time.
 */
const MOST_UNDERWAY_BYTES = 1024 * 1024; // 1 MiB

/** The package has no word for it. */
function sendLessAtOnce(channel: ClientChannel): void {
  const { outgoing } = channel as unknown as { outgoing: { window: number } };
  outgoing.window = Math.min(outgoing.window, MOST_UNDERWAY_BYTES);
}

function startShell(
  channel: ClientChannel,
  started: (shell: RemoteShell) => void,
  refused: (error: Error) => void,
): void {
  sendLessAtOnce(channel);
  let line = '';
  let complaint = '';
  let ended: Error | undefined;
  const waiting = new Map<string, Waiting>();
  const settle = (name: string): Waiting | undefined => {
    const one = waiting.get(name);
    waiting.delete(name);
    return one;
  };
  const end = (error: Error) => {
    if (ended) return;
    ended = error;
    clearTimeout(timer);
    for (const name of [...waiting.keys()]) settle(name)?.reject(error);
    channel.close();
  };
  const timer = setTimeout(() => {
    end(new Error('no answer in time'));
  }, STARTS_WITHIN_MS);
  const shell: RemoteShell = {
    give: (name, command, input) =>
      new Promise((resolve, reject) => {
        if (ended) {
          reject(ended);
          return;
        }
        waiting.set(name, { resolve, reject });
        channel.write(`${name} ${input.length} ${command}\n`);
        channel.write(input);
      }),
  };
  waiting.set(READY, {
    resolve: () => {
      clearTimeout(timer);
      started(shell);
    },
    reject: refused,
  });
  const heard = (said: string) => {
    const [name = '', how] = said.split(' ', 2);
    const one = settle(name);
    if (!one) end(new Error('the server answered something else'));
    else if (how === 'failed')
      one.reject(new Error(said.slice(`${name} ${how} `.length).trim() || 'the server could not'));
    else one.resolve();
  };
  channel.on('data', (piece: Buffer) => {
    const lines = (line + piece.toString()).split('\n');
    line = lines.pop() ?? '';
    for (const said of lines) heard(said);
  });
  channel.stderr.on('data', (piece: Buffer) => (complaint = (complaint + piece.toString()).slice(-COMPLAINT_CHARS)));
  channel.on('close', (code: number | null) => {
    end(new Error(complaint.trim() || `the server ended with ${code ?? 'nothing'}`));
  });
  channel.on('error', end);
}

/** A word of the shell (POSIX.1-2017, section 2.2.2 of the shell language). */
export const quoteForShell = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;
