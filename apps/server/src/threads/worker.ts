/** Entry of a worker thread; piscina calls the exports by name. */
export {
  checkPages as check,
  countLog,
  compare,
  drawDocumentPages,
  compilePages as compile,
  findTouches as find,
  judgePassword,
  findListsAt,
  matchAddresses as match,
  readAnswer as crawled,
  readFiles as read,
  readOldAddresses as oldAddresses,
  findRecipeInThread,
  relinkAnswer as relink,
} from './calls.ts';
