/** Asking one server: over UDP, and over TCP when the answer was cut (RFC 7766 section 5). */
import { randomInt } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { connect, isIPv6 } from 'node:net';
import { decodeReply, encodeQuestion, WrongAnswer, type Question, type Reply } from './message.ts';

export interface ServerAddress {
  readonly address: string;
  readonly port: number;
}

export interface AskOptions {
  readonly recursion: boolean;
  readonly withinMs: number;
}

export type Transport = 'udp' | 'tcp';
export type TimedReply = Reply & { readonly over: Transport };

/** Where nobody listens at the port, asking again changes nothing. */
export type NoAnswerWhy = 'nobody-listens' | 'too-late' | 'closed-early' | 'line-broken';

/** No answer came in time, or none can. */
export class NoAnswer extends Error {
  readonly why: NoAnswerWhy;

  /** @param message for whoever reads a log */
  constructor(why: NoAnswerWhy, message: string = why) {
    super(message);
    this.why = why;
  }
}

/** What a socket's own error means for a question. */
function unanswered({ code, message }: NodeJS.ErrnoException): NoAnswer {
  return code === 'ECONNREFUSED' ? new NoAnswer('nobody-listens') : new NoAnswer('line-broken', message);
}

/**
 * Throws NoAnswer, or WrongAnswer when all that came was for another question. A wrong answer does not
 * end the waiting: anyone can send a packet, and the right one may still come (RFC 5452 section 9.1).
 */
export async function ask(
  server: ServerAddress,
  question: Question,
  { recursion, withinMs }: AskOptions,
): Promise<TimedReply> {
  const id = randomInt(65_536);
  const bytes = encodeQuestion(id, question, { recursion });
  const reply = await overUdp(server, bytes, withinMs, (answer) => decodeReply(answer, id, question));
  if (!reply.truncated) return { ...reply, over: 'udp' };
  return { ...decodeReply(await exchangeTcp(server, bytes, withinMs), id, question), over: 'tcp' };
}

function overUdp<T>(server: ServerAddress, bytes: Buffer, withinMs: number, read: (answer: Buffer) => T): Promise<T> {
  const socket = createSocket(isIPv6(server.address) ? 'udp6' : 'udp4');
  return new Promise((resolve, reject) => {
    let wrong: WrongAnswer | undefined;
    const end = (settle: () => void) => {
      clearTimeout(timer);
      socket.close();
      settle();
    };
    const timer = setTimeout(() => end(() => reject(wrong ?? new NoAnswer('too-late'))), withinMs);
    socket.once('error', (error: NodeJS.ErrnoException) => end(() => reject(unanswered(error))));
    socket.on('message', (answer) => {
      let value: T;
      try {
        value = read(answer);
      } catch (error) {
        if (!(error instanceof WrongAnswer)) throw error;
        wrong = error;
        return;
      }
      end(() => resolve(value));
    });
    // Connected, so that a port nobody listens on is told at once.
    socket.connect(server.port, server.address, () => socket.send(bytes));
  });
}

/** One message there and one back, with lengths before them (RFC 1035 section 4.2.2). */
export function exchangeTcp(server: ServerAddress, bytes: Buffer, withinMs: number): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const socket = connect(server.port, server.address);
    let held = Buffer.alloc(0);
    const fail = (problem: NoAnswer) => {
      socket.destroy();
      reject(problem);
    };
    socket.setTimeout(withinMs, () => fail(new NoAnswer('too-late')));
    socket.once('error', (error: NodeJS.ErrnoException) => fail(unanswered(error)));
    socket.once('end', () => fail(new NoAnswer('closed-early')));
    socket.on('data', (piece: Buffer) => {
      held = Buffer.concat([held, piece]);
      if (held.length < 2 || held.length < 2 + held.readUInt16BE(0)) return;
      resolve(Buffer.from(held.subarray(2, 2 + held.readUInt16BE(0))));
      socket.destroy();
    });
    const head = Buffer.alloc(2);
    head.writeUInt16BE(bytes.length);
    socket.write(Buffer.concat([head, bytes]));
  });
}
