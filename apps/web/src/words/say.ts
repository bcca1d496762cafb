/** The words of the interface: each folder has a catalogue of its own, and all share one of what is said everywhere. */
import { ENGLISH_ENTRANCE, createSay, type Catalogue, type PhraseKey, type Say } from '@fastigium/words/entrance';
import common from './common.en.json';

export function sayWith<C extends Catalogue>(catalogue: C): Say<PhraseKey<C> | PhraseKey<typeof common>> {
  return createSay({ ...common, ...catalogue }, ENGLISH_ENTRANCE.tag) as Say<PhraseKey<C> | PhraseKey<typeof common>>;
}
