/**
 * Matching in a time that grows with the pattern times the text, whatever both are: backtracking that never
 * visits the same place in the text at the same place in the pattern twice.
 * Source: R. Cox, "Regular Expression Matching: the Virtual Machine Approach" (2009) and RE2's bit-state matcher.
 */
import type { Expression } from './expression.ts';
import { patternFault } from '../messages.ts';
import { PatternError } from './parts.ts';

type Instruction =
  | { readonly op: 'letter'; readonly code: number }
  | { readonly op: 'set'; readonly has: (code: number) => boolean }
  | { readonly op: 'split'; first: number; second: number }
  | { readonly op: 'jump'; to: number }
  | { readonly op: 'save'; readonly slot: number }
  | { readonly op: 'end' };

/** Enough for any pattern a person would write; what repeats large groups many times is refused. */
const MOST_INSTRUCTIONS = 4000;

export interface Program {
  readonly instructions: readonly Instruction[];
  readonly captures: number;
  readonly ignoreCase: boolean;
}

/** Throws a PatternError where it would be too large. */
export function compileProgram(expression: Expression, captures: number, ignoreCase: boolean): Program {
  const instructions: Instruction[] = [];
  const add = <T extends Instruction>(instruction: T): T => {
    if (instructions.length >= MOST_INSTRUCTIONS) throw new PatternError(patternFault('too-large'), 0);
    instructions.push(instruction);
    return instruction;
  };

  function emit(expression: Expression): void {
    switch (expression.kind) {
      case 'text':
        for (let at = 0; at < expression.text.length; at += 1)
          add({ op: 'letter', code: foldCase(expression.text.charCodeAt(at), ignoreCase) });
        return;
      case 'set':
        add({
          op: 'set',
          has: ignoreCase ? (code) => expression.has(code) || expression.has(findOtherCase(code)) : expression.has,
        });
        return;
      case 'sequence':
        for (const each of expression.of) emit(each);
        return;
      case 'capture':
        add({ op: 'save', slot: expression.number * 2 });
        emit(expression.of);
        add({ op: 'save', slot: expression.number * 2 + 1 });
        return;
      case 'choice':
        emitChoice(expression.of);
        return;
      case 'repeat':
        emitRepeat(expression);
        return;
    }
  }

  function emitChoice(options: readonly Expression[]): void {
    const ends: { to: number }[] = [];
    options.forEach((option, at) => {
      if (at === options.length - 1) {
        emit(option);
        return;
      }
      const split = add({ op: 'split', first: instructions.length + 1, second: 0 });
      emit(option);
      ends.push(add({ op: 'jump', to: 0 }));
      split.second = instructions.length;
    });
    for (const end of ends) end.to = instructions.length;
  }

  function emitRepeat({ of: repeated, min, max, greedy }: Extract<Expression, { kind: 'repeat' }>): void {
    for (let n = 0; n < min; n += 1) emit(repeated);
    if (max === Infinity) {
      const start = instructions.length;
      const split = add({ op: 'split', first: 0, second: 0 });
      emit(repeated);
      add({ op: 'jump', to: start });
      aim(split, start + 1, instructions.length, greedy);
      return;
    }
    const splits: { first: number; second: number; at: number }[] = [];
    for (let n = min; n < max; n += 1) {
      const at = instructions.length;
      splits.push(Object.assign(add({ op: 'split', first: 0, second: 0 }), { at }));
      emit(repeated);
    }
    for (const split of splits) aim(split, split.at + 1, instructions.length, greedy);
  }

  emit(expression);
  add({ op: 'end' });
  return { instructions, captures, ignoreCase };
}

function aim(split: { first: number; second: number }, into: number, past: number, greedy: boolean): void {
  split.first = greedy ? into : past;
  split.second = greedy ? past : into;
}

/** From the first letter to the last. @returns what each capture holds, undefined for one that took no part; undefined without a match */
export function run({ instructions, captures, ignoreCase }: Program, text: string): (string | undefined)[] | undefined {
  const width = text.length + 1;
  const visited = new Uint32Array(Math.ceil((instructions.length * width) / 32));
  const slots = new Int32Array(captures * 2).fill(-1);
  // Places to go on from, two numbers each; a negative first one puts a slot back to what it was.
  const stack: number[] = [0, 0];
  while (stack.length > 0) {
    let position = stack.pop() ?? 0;
    let at = stack.pop() ?? 0;
    if (at < 0) {
      slots[-at - 1] = position;
      continue;
    }
    for (;;) {
      const bit = at * width + position;
      if (((visited[bit >>> 5] ?? 0) >>> (bit & 31)) & 1) break;
      visited[bit >>> 5] = (visited[bit >>> 5] ?? 0) | (1 << (bit & 31));
      const instruction = instructions[at];
      if (instruction === undefined) break;
      if (instruction.op === 'end') {
        if (position === text.length)
          return Array.from({ length: captures }, (_, n) => {
            const [from = -1, to = -1] = [slots[n * 2], slots[n * 2 + 1]];
            return from < 0 || to < 0 ? undefined : text.slice(from, to);
          });
        break;
      }
      if (instruction.op === 'split') {
        stack.push(instruction.second, position);
        at = instruction.first;
      } else if (instruction.op === 'jump') at = instruction.to;
      else if (instruction.op === 'save') {
        stack.push(-instruction.slot - 1, slots[instruction.slot] ?? -1);
        slots[instruction.slot] = position;
        at += 1;
      } else {
        if (position >= text.length) break;
        const code = text.charCodeAt(position);
        if (instruction.op === 'letter' ? foldCase(code, ignoreCase) !== instruction.code : !instruction.has(code))
          break;
        position += 1;
        at += 1;
      }
    }
  }
  return undefined;
}

function foldCase(code: number, ignoreCase: boolean): number {
  return ignoreCase && code >= 65 && code <= 90 ? code + 32 : code;
}

/** Of the letters addresses are made of, which are ASCII alone. */
function findOtherCase(code: number): number {
  return code >= 65 && code <= 90 ? code + 32 : code >= 97 && code <= 122 ? code - 32 : code;
}
