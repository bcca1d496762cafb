/** One name server: the same zone over UDP and TCP, and updates signed with the zone's key. */
import { createSocket, type Socket } from 'node:dgram';
import { createServer, type Server, type Socket as TcpSocket } from 'node:net';
import type { ResourceRecord } from '@fastigium/core/dns';
import {
  decodeQuestion,
  decodeUpdate,
  encodeReply,
  encodeUpdateReply,
  isSigned,
  RCODES,
  sign,
  type TsigKey,
  type UpdateStep,
} from '@fastigium/wire';
import type { Registry } from '../registrar/registry.ts';
import type { NameServerFault } from '../world/faults.ts';
import { closeServer, listen } from '../world/listen.ts';
import { answerWithAuthority, type ServedZone } from './answer.ts';

export interface NameServerOptions {
  readonly registry: Registry;
  /** Zones that are always there: the host's and the registrar's own. */
  readonly fixed: readonly ServedZone[];
  readonly address: string;
  readonly port: number;
  readonly fault: () => NameServerFault;
  readonly nowMs: () => number;
}

export interface RunningNameServer {
  readonly port: number;
  stop(): Promise<void>;
}

export async function startNameServer(options: NameServerOptions): Promise<RunningNameServer> {
  const { registry, fixed, address, fault } = options;
  /** What this server served before the latest change, for the time it is told to lag behind. */
  const earlier = new Map<string, readonly ResourceRecord[]>();
  registry.onZoneChange((zone, before) => earlier.set(zone, before));
  const zoneOf = (name: string): ServedZone | undefined => {
    const held = registry.zoneOf(name);
    if (held)
      return { name: held.name, records: fault() === 'lags' ? (earlier.get(held.name) ?? held.records) : held.records };
    return fixed.find((zone) => name === zone.name || name.endsWith(`.${zone.name}`));
  };

  async function respond(bytes: Buffer, overUdp: boolean): Promise<Buffer | undefined> {
    if (fault() === 'silent') return undefined;
    const asked = decodeQuestion(bytes);
    if (asked?.opcode === 'UPDATE' || (bytes.length > 12 && ((bytes.readUInt16BE(2) >> 11) & 15) === 5))
      return update(bytes);
    if (!asked) return undefined;
    if (fault() === 'refuses')
      return encodeReply(asked, {
        rcode: RCODES.REFUSED,
        authoritative: false,
        recursionAvailable: false,
        answers: [],
        authorities: [],
      });
    const reply = answerWithAuthority(asked, zoneOf);
    return encodeReply(asked, reply, overUdp ? (fault() === 'truncates' ? 0 : asked.udpBytes) : undefined);
  }

  async function update(bytes: Buffer): Promise<Buffer> {
    let message: ReturnType<typeof decodeUpdate>;
    try {
      message = decodeUpdate(bytes);
    } catch {
      return encodeUpdateReply(bytes.readUInt16BE(0), RCODES.FORMERR);
    }
    const held = registry.find(message.zone);
    if (held?.heldBy !== 'account') return encodeUpdateReply(message.id, RCODES.NOTZONE);
    const key: TsigKey | undefined = held.updateKey
      ? { name: held.updateKey.name, algorithm: 'hmac-sha256', secret: Buffer.from(held.updateKey.secret, 'base64') }
      : undefined;
    const nowSeconds = Math.floor(options.nowMs() / 1000);
    if (!key || !isSigned(message, key, nowSeconds)) return encodeUpdateReply(message.id, RCODES.NOTAUTH);
    const change = await registry.replaceZone(message.zone, applySteps(held.records, message.steps, message.zone));
    return sign(
      encodeUpdateReply(message.id, change.ok ? RCODES.NOERROR : RCODES.REFUSED),
      key,
      nowSeconds,
      message.tsig?.mac,
    ).bytes;
  }

  const tcp = createServer((socket) => serveTcp(socket, (bytes) => respond(bytes, false)));
  const port = await listen(tcp, options.port, address);
  const udp = await openUdp(address, port, (bytes) => respond(bytes, true)).catch(async (error: unknown) => {
    await closeServer(tcp);
    throw error;
  });
  return { port, stop: () => stopBoth(udp, tcp) };
}

/** RFC 2136 section 3.4.2: the apex keeps its SOA and NS set whatever an update says. */
export function applySteps(
  records: readonly ResourceRecord[],
  steps: readonly UpdateStep[],
  zone: string,
): ResourceRecord[] {
  let out = [...records];
  for (const step of steps) {
    const changed = step.kind === 'delete-set' ? step : step.record;
    if (changed.name === zone && (changed.type === 'SOA' || changed.type === 'NS') && step.kind !== 'add') continue;
    if (step.kind === 'delete-set') out = out.filter(({ name, type }) => name !== step.name || type !== step.type);
    else
      out = out.filter(
        ({ name, type, data }) => name !== step.record.name || type !== step.record.type || data !== step.record.data,
      );
    if (step.kind === 'add') out.push(step.record);
  }
  return out;
}

export function openUdp(
  address: string,
  port: number,
  respond: (bytes: Buffer) => Promise<Buffer | undefined>,
): Promise<Socket> {
  const socket = createSocket('udp4');
  socket.on('message', (bytes, from) => {
    void respond(bytes)
      .then((answer) => answer && socket.send(answer, from.port, from.address))
      .catch(() => {});
  });
  return new Promise((resolve, reject) => {
    socket.once('error', reject);
    socket.bind(port, address, () => {
      socket.on('error', () => {});
      resolve(socket);
    });
  });
}

/** Messages over TCP carry their length before them (RFC 1035 section 4.2.2). */
export function serveTcp(socket: TcpSocket, respond: (bytes: Buffer) => Promise<Buffer | undefined>): void {
  let held = Buffer.alloc(0);
  socket.on('error', () => socket.destroy());
  socket.setTimeout(10_000, () => socket.destroy());
  socket.on('data', (piece: Buffer) => {
    held = Buffer.concat([held, piece]);
    while (held.length >= 2 && held.length >= 2 + held.readUInt16BE(0)) {
      const size = held.readUInt16BE(0);
      const message = Buffer.from(held.subarray(2, 2 + size));
      held = held.subarray(2 + size);
      void respond(message)
        .then((answer) => {
          if (!answer) return;
          const head = Buffer.alloc(2);
          head.writeUInt16BE(answer.length);
          socket.write(Buffer.concat([head, answer]));
        })
        .catch(() => socket.destroy());
    }
  });
}

export async function stopBoth(udp: Socket, tcp: Server): Promise<void> {
  await new Promise<void>((resolve) => udp.close(() => resolve()));
  await closeServer(tcp);
}
