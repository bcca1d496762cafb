/** The twelve acts that designers do most, each with what it may change and what every link has to lead to afterwards. */
import type { Act } from './acts/act.ts';
import { home, moveBranch, rename, underPath } from './acts/addresses.ts';
import { duplicated, logo, newerExport, sectionRemoved, textEdited } from './acts/contents.ts';
import { menuAdded, menuMoved, menuRenamed } from './acts/menus.ts';

export { runAct, type Act, type ActContext, type Outcome } from './acts/act.ts';

/** The newer export comes last: it is a fact, and no step to take back. */
export const ACTS: readonly Act[] = [
  home,
  rename,
  moveBranch,
  menuMoved,
  menuAdded,
  menuRenamed,
  logo,
  textEdited,
  sectionRemoved,
  duplicated,
  underPath,
  newerExport,
];
