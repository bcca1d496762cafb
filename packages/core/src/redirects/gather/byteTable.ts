/**
 * Texts by number, found among the bytes of a longer text: most of what a log says was said before, and making a text of
 * it each time costs more than reading it. The bytes of all lie in one place.
 */

/** Whoever writes a log's addresses may choose them so that all fall into one place; those are kept by the engine's own hash. */
const MOST_STEPS = 64;
const FIRST_PLACES = 4096;
const FIRST_BYTES = 64 * 1024;

/** The number of a text, and 1 more, so that 0 is none; its hash; where its bytes begin, and how many there are. */
const SLOT = ['number', 'hash', 'begin', 'length'] as const;
const [NUMBER, HASH, BEGIN, LENGTH] = [0, 1, 2, 3];

export class ByteTable {
  #size = 0;
  #bytes = new Uint8Array(FIRST_BYTES);
  /** Where each begins; the last one is where the next will. */
  #begins = new Uint32Array(FIRST_PLACES);
  /** Four numbers side by side for each place, so that they come from memory at once: see SLOT. */
  #slots = new Int32Array(FIRST_PLACES * SLOT.length);
  readonly #apart = new Map<string, number>();
  readonly #letters: number;

  /** @param letters that are reckoned with, from the end: few are quicker, and enough where texts differ there */
  constructor(letters = Infinity) {
    this.#letters = letters;
  }

  get size(): number {
    return this.#size;
  }

  /** Its bytes, as long as nothing is added. */
  at(number: number): Uint8Array {
    return this.#bytes.subarray(this.#begins[number] ?? 0, this.#begins[number + 1] ?? 0);
  }

  /** The number of what stands there; -1 where it is new. */
  find(text: Uint8Array, from: number, to: number): number {
    const hash = this.#reckonHash(text, from, to);
    const slots = this.#slots;
    for (let step = 0, slot = this.#slotOf(hash); step < MOST_STEPS; step += 1, slot = this.#slotAfter(slot)) {
      const number = (slots[slot + NUMBER] ?? 0) - 1;
      if (number < 0) return -1;
      const isLike = slots[slot + HASH] === hash && slots[slot + LENGTH] === to - from;
      if (isLike && this.#isThere(slots[slot + BEGIN] ?? 0, text, from, to)) return number;
    }
    return this.#apart.size === 0 ? -1 : (this.#apart.get(writeKey(text.subarray(from, to))) ?? -1);
  }

  /** @param text one that is not there yet. @returns its number */
  add(text: Uint8Array): number {
    const number = this.#size;
    const begin = this.#begins[number] ?? 0;
    this.#size += 1;
    while (begin + text.length > this.#bytes.length) this.#bytes = double(this.#bytes);
    if (this.#size >= this.#begins.length) this.#begins = double(this.#begins);
    this.#bytes.set(text, begin);
    this.#begins[this.#size] = begin + text.length;
    if (this.#size * 2 * SLOT.length > this.#slots.length) this.#place(this.#slots.length * 2);
    else this.#put(number);
    return number;
  }

  #isThere(begin: number, text: Uint8Array, from: number, to: number): boolean {
    const bytes = this.#bytes;
    for (let at = from, there = begin; at < to; at += 1, there += 1) if (text[at] !== bytes[there]) return false;
    return true;
  }

  #slotOf(hash: number): number {
    return (hash * SLOT.length) & (this.#slots.length - SLOT.length);
  }

  #slotAfter(slot: number): number {
    return (slot + SLOT.length) & (this.#slots.length - SLOT.length);
  }

  #place(length: number): void {
    this.#slots = new Int32Array(length);
    this.#apart.clear();
    for (let number = 0; number < this.#size; number += 1) this.#put(number);
  }

  #put(number: number): void {
    const text = this.at(number);
    const hash = this.#reckonHash(text, 0, text.length);
    for (let step = 0, slot = this.#slotOf(hash); step < MOST_STEPS; step += 1, slot = this.#slotAfter(slot))
      if (this.#slots[slot + NUMBER] === 0) {
        this.#slots.set([number + 1, hash, this.#begins[number] ?? 0, text.length], slot);
        return;
      }
    this.#apart.set(writeKey(text), number);
  }

  /** As FNV-1a mixes (RFC 9923), with its upper bits folded into those that choose a place. */
  #reckonHash(text: Uint8Array, from: number, to: number): number {
    let hash = 0x811c9dc5 ^ (to - from);
    for (let at = Math.max(from, to - this.#letters); at < to; at += 1)
      hash = Math.imul(hash ^ (text[at] ?? 0), 0x01000193);
    return hash ^ (hash >>> 15);
  }
}

const writeKey = (bytes: Uint8Array): string => bytes.join(',');

function double<T extends Uint8Array | Uint32Array | Int32Array>(before: T): T {
  const more = new (before.constructor as new (length: number) => T)(before.length * 2);
  more.set(before);
  return more;
}
