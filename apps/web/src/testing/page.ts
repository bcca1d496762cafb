/** What stands on the page, as whoever looks at it would name it. */
import { nextTick } from 'vue';

export const readPageText = (): string => document.body.textContent.replace(/\s+/g, ' ');

/** By what it is called for those who hear it, or by what stands on it. */
const readName = (element: Element): string =>
  element.getAttribute('aria-label') ?? element.textContent.replace(/\s+/g, ' ').trim();

function findNamed<E extends Element>(selector: string, name: string): E | undefined {
  return [...document.querySelectorAll<E>(selector)].find((each) => readName(each) === name);
}

export const findButton = (name: string): HTMLButtonElement | undefined => findNamed('button', name);

/** Throws where there is none, or nobody can press it. */
export async function press(name: string): Promise<void> {
  const button = findButton(name);
  if (!button)
    throw new Error(`no button ${name}: ${[...document.querySelectorAll('button')].map(readName).join(' | ')}`);
  if (button.disabled) throw new Error(`${name} cannot be pressed`);
  button.click();
  await nextTick();
}

/** The field under a label, or one that is called so for those who hear it. Throws where there is none. */
export function findField(label: string): HTMLInputElement {
  const found = [...document.querySelectorAll('label')].find((each) => readName(each) === label);
  const input =
    document.getElementById(found?.htmlFor ?? '') ??
    found?.querySelector('input') ??
    [...document.querySelectorAll('input[aria-label]')].find((each) => readName(each) === label);
  if (!(input instanceof HTMLInputElement)) throw new Error(`no field ${label}`);
  return input;
}

export async function write(label: string, text: string): Promise<void> {
  const input = findField(label);
  input.value = text;
  input.dispatchEvent(new Event('input', { bubbles: true }));
  await nextTick();
}

/** Presses Enter in a form. */
export async function send(): Promise<void> {
  document.querySelector('form')?.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true }));
  await nextTick();
}

/** Chooses one of several that stand beside one another, by what stands on it. Throws where there is none. */
export async function chooseOption(name: string): Promise<void> {
  const option = findNamed<HTMLElement>('[role="radio"], label', name);
  if (!option) throw new Error(`no choice ${name}`);
  option.click();
  await nextTick();
}
