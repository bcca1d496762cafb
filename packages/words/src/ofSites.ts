/** What is said of sites, for a speaker that knew the words of the entrance alone. */
import { ofSites } from './en/ofSites.ts';
import type { SpeakAndLearn } from './speaker.ts';
import { SUBJECTS_OF_SITES } from './subjectsOfSites.ts';

export function learnSites(speak: SpeakAndLearn): void {
  speak.learn(ofSites, SUBJECTS_OF_SITES);
}
