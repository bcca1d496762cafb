import { buildAll } from './lib/build.mjs';
import { endWith, say } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
try {
  say((await buildAll(root)) ? 'Built.' : 'Nothing to build.');
} catch (error) {
  endWith(error);
}
