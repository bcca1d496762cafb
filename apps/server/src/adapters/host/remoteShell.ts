/**
 * One shell at a server that stays and does what it is given, piece by piece: starting one anew costs a server as much
 * as unpacking a thousand files, where the account's own profile is read each time.
 *
 *   us      SIZE COMMAND\n, then SIZE bytes, which the command reads as its input
 *   server  ready\n when it was done; after a command that fails the shell ends, with what was said on its standard error
 */
import type { Client, ClientChannel } from 'ssh2';

/** What a server has to answer, so that one that starts something else instead is told apart. */
const READY = 'fastigium-ready\n';
const STARTS_WITHIN_MS = 5000;
const COMPLAINT_CHARS = 500;

export interface RemoteShell {
  /** One at a time. Rejects with what the server complained of; then the shell has ended. */
  give(command: string, input: Buffer): Promise<void>;
}

/** @param setUp of the POSIX shell; whatever it defines is what can be given. Rejects where it fails or the account may run nothing. */
export function openShell(client: Client, setUp: string): Promise<RemoteShell> {
  return new Promise((resolve, reject) => {
    const script = `${setUp}\nprintf ${quoted(READY)}\nwhile read -r size command; do head -c "$size" | $command || exit 1; printf ${quoted(READY)}; done`;
    // The account's own shell may be any; what it is given is one word for the standard one.
    client.exec(`sh -c ${quoted(script)}`, (error, channel) => {
      if (error) reject(error);
      else shellOn(channel, resolve, reject);
    });
  });
}

function shellOn(channel: ClientChannel, started: (shell: RemoteShell) => void, refused: (error: Error) => void): void {
  let said = '';
  let complaint = '';
  let ended: Error | undefined;
  let waiting: { readonly resolve: () => void; readonly reject: (error: Error) => void } | undefined;
  const end = (error: Error) => {
    if (ended) return;
    ended = error;
    clearTimeout(timer);
    waiting?.reject(error);
    channel.close();
  };
  const timer = setTimeout(() => { end(new Error('no answer in time')); }, STARTS_WITHIN_MS);
  const shell: RemoteShell = {
    give: (command, input) => new Promise((resolve, reject) => {
      if (ended) {
        reject(ended);
        return;
      }
      waiting = { resolve, reject };
      channel.write(`${input.length} ${command}\n`);
      channel.write(input);
    }),
  };
  waiting = { resolve: () => { clearTimeout(timer); started(shell); }, reject: refused };
  channel.on('data', (piece: Buffer) => {
    said += piece.toString('latin1');
    if (said === READY) {
      said = '';
      waiting?.resolve();
    } else if (!READY.startsWith(said)) end(new Error('the server answered something else'));
  });
  channel.stderr.on('data', (piece: Buffer) => (complaint = (complaint + piece.toString()).slice(-COMPLAINT_CHARS)));
  channel.on('close', (code: number | null) => { end(new Error(complaint.trim() || `the server ended with ${code ?? 'nothing'}`)); });
  channel.on('error', end);
}

/** A word of the shell (POSIX.1-2017, section 2.2.2 of the shell language). */
export const quoted = (text: string): string => `'${text.replaceAll('\'', '\'\\\'\'')}'`;
