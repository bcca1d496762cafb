/** Writes src/languages/register.json: what the IANA Language Subtag Registry holds, as the package language-subtag-registry has it. Run by `npm run generate -w packages/core`. */
import registry from 'language-subtag-registry/data/json/registry.json' with { type: 'json' };
import { writeFileSync } from 'node:fs';
import { registerOf } from './registerOf.ts';

writeFileSync(new URL('../src/languages/register.json', import.meta.url), `${JSON.stringify(registerOf(registry))}\n`);
