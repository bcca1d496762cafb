export { escapeXml } from './escape.ts';
