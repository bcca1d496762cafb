/** Entry of a worker thread; piscina calls the exports by name. */
export {
  checkPages as check,
  countLog,
  compare,
  documentPages,
  compilePages as compile,
  findTouches as find,
  judgePassword,
  listsAt,
  matchAddresses as match,
  readAnswer as crawled,
  readFiles as read,
  readOldAddresses as oldAddresses,
  recipeOf,
  relinkAnswer as relink,
} from './calls.ts';
