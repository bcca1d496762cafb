/** Archives no honest program writes: any name, any mode, any claim. PKWARE APPNOTE 6.3.10, sections 4.3.7, 4.3.12 and 4.3.16. */
import { crc32, deflateRawSync } from 'node:zlib';

export interface RawEntry {
  readonly name: string | Buffer;
  readonly bytes: Buffer;
  /** Unix mode in the external attributes. */
  readonly mode?: number;
  /** A false uncompressed size. */
  readonly declaredBytes?: number;
}

export function rawZip(entries: readonly RawEntry[]): Buffer {
  const locals: Buffer[] = [];
  const centrals: Buffer[] = [];
  let offset = 0;
  for (const { name, bytes, mode = 0o100644, declaredBytes = bytes.length } of entries) {
    const raw = Buffer.isBuffer(name) ? name : Buffer.from(name);
    const packed = deflateRawSync(bytes);
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(Buffer.isBuffer(name) ? 0 : 1 << 11, 2);
    common.writeUInt16LE(8, 4);
    common.writeUInt32LE(crc32(bytes), 10);
    common.writeUInt32LE(packed.length, 14);
    common.writeUInt32LE(declaredBytes, 18);
    common.writeUInt16LE(raw.length, 22);
    const local = Buffer.concat([Buffer.from('PK\x03\x04', 'latin1'), common, raw, packed]);
    const tail = Buffer.alloc(14);
    tail.writeUInt32LE((mode << 16) >>> 0, 6);
    tail.writeUInt32LE(offset, 10);
    centrals.push(Buffer.concat([Buffer.from('PK\x01\x02\x14\x03', 'latin1'), common, tail, raw]));
    locals.push(local);
    offset += local.length;
  }
  const central = Buffer.concat(centrals);
  const end = Buffer.alloc(18);
  end.writeUInt16LE(entries.length, 4);
  end.writeUInt16LE(entries.length, 6);
  end.writeUInt32LE(central.length, 8);
  end.writeUInt32LE(offset, 12);
  return Buffer.concat([...locals, central, Buffer.from('PK\x05\x06', 'latin1'), end]);
}
