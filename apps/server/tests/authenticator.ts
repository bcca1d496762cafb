/**
 * A passkey in software, by the structures of Web Authentication Level 3 (sections 5.8.1, 6.1 and 6.5) and the keys of
 * RFC 9053, section 7.1.1, written here from those texts and sharing nothing with what is tested.
 */
import { createHash, generateKeyPairSync, randomBytes, sign, type KeyObject } from 'node:crypto';

const sha256 = (bytes: string | Uint8Array) => createHash('sha256').update(bytes).digest();
const base64url = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64url');

/** User present (section 6.1, bit 0). */
const PRESENT = 0x01;
/** A credential follows (bit 6). */
const WITH_CREDENTIAL = 0x40;

export class Authenticator {
  readonly id = randomBytes(32);
  readonly #key: KeyObject;
  readonly #cose: Buffer;
  /** How often it says it was used. */
  count = 0;

  constructor() {
    const { privateKey, publicKey } = generateKeyPairSync('ec', { namedCurve: 'P-256' });
    this.#key = privateKey;
    const { x = '', y = '' } = publicKey.export({ format: 'jwk' }) as { x?: string; y?: string };
    // A map of CBOR: kind EC2, algorithm ES256, curve P-256, both coordinates.
    this.#cose = Buffer.concat([
      Buffer.from('a5010203262001215820', 'hex'),
      Buffer.from(x, 'base64url'),
      Buffer.from('225820', 'hex'),
      Buffer.from(y, 'base64url'),
    ]);
  }

  #data(name: string, flags: number, rest: Uint8Array = Buffer.alloc(0)): Buffer {
    const count = Buffer.alloc(4);
    count.writeUInt32BE((this.count += 1));
    return Buffer.concat([sha256(name), Buffer.from([flags]), count, rest]);
  }

  /** @param name of the place, as the options say it */
  register(challenge: string, { name, origin }: { readonly name: string; readonly origin: string }) {
    const length = Buffer.alloc(2);
    length.writeUInt16BE(this.id.length);
    const credential = Buffer.concat([Buffer.alloc(16), length, this.id, this.#cose]);
    const data = this.#data(name, PRESENT | WITH_CREDENTIAL, credential);
    // A map of CBOR with no attestation: fmt, attStmt, authData.
    const attestation = Buffer.concat([
      Buffer.from('a363666d74646e6f6e656761747453746d74a068617574684461746158', 'hex'),
      Buffer.from([data.length]),
      data,
    ]);
    return this.#answer({
      clientDataJSON: clientData('webauthn.create', challenge, origin),
      attestationObject: base64url(attestation),
    });
  }

  /** Answers a challenge. */
  assert(challenge: string, { name, origin }: { readonly name: string; readonly origin: string }) {
    const data = this.#data(name, PRESENT);
    const client = clientData('webauthn.get', challenge, origin);
    const signature = sign('sha256', Buffer.concat([data, sha256(Buffer.from(client, 'base64url'))]), this.#key);
    return this.#answer({
      clientDataJSON: client,
      authenticatorData: base64url(data),
      signature: base64url(signature),
    });
  }

  #answer(response: Record<string, string>) {
    const id = base64url(this.id);
    return { id, rawId: id, type: 'public-key', clientExtensionResults: {}, response };
  }
}

function clientData(type: string, challenge: string, origin: string): string {
  return base64url(Buffer.from(JSON.stringify({ type, challenge, origin, crossOrigin: false })));
}
