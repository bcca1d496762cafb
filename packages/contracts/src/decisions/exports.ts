/** That files came: of a newer export, or of a running site. */
import type { Definitions } from '@fastigium/core/messages';

export const exportMessages = {
  'redirects-crawled': { host: 'text', count: 'number' },
  'export-taken': { file: 'text', added: 'number', changed: 'number', moved: 'number', dropped: 'number' },
} as const satisfies Definitions;
