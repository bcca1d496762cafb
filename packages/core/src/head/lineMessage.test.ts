import { expect, it } from 'vitest';
import { createLineMessage } from './index.ts';

// Names of meta elements and of link types: HTML standard, sections 4.2.5.1 and 4.6.7; og: names as they are in use.
it.each([
  ['meta:description', 'line.description', {}],
  ['link:alternate:cy', 'line.alternates', {}],
  ['link:alternate:x-default', 'line.alternates', {}],
  ['meta:og:title', 'line.share-title', {}],
  ['meta:og:site_name', 'line.share-card', {}],
  ['link:icon', 'line.icons', {}],
  ['link:manifest', 'line.icons', {}],
  ['meta:rating', 'line.other', { name: 'rating' }],
  ['link:license', 'line.other', { name: 'license' }],
])('%s is called %s', (name, code, parameters) => expect(createLineMessage(name)).toEqual({ code, parameters }));
