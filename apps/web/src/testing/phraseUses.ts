/** Where phrases are said: every call of `say` in components and scripts, as it stands in the source. */
import ts from 'typescript';

export interface PhraseUse {
  readonly file: string;
  /** Undefined where it is no literal, and so nobody can tell what it says. */
  readonly key: string | undefined;
  /** What it is filled with; undefined where that is no list of names. */
  readonly names: readonly string[] | undefined;
}

/**
 * What is said from the catalogue of each folder.
 * @param sources by the paths of their files, from one folder on
 */
export function findPhraseUses(sources: Readonly<Record<string, string>>): ReadonlyMap<string, readonly PhraseUse[]> {
  const uses = new Map<string, PhraseUse[]>();
  for (const [file, source] of Object.entries(sources)) {
    const from = /^import \{ say \} from '(.+)\/words\.ts';$/m.exec(source)?.[1];
    if (from === undefined) continue;
    const folder = new URL(`${from}/`, `file:///web/src/${file.replace(/^(\.\.?\/)+/, '')}`).pathname;
    const found = [...source.matchAll(/\bsay(\.parts)?\(/g)].map(({ index }) => useAt(file, source.slice(index)));
    uses.set(folder, [...(uses.get(folder) ?? []), ...found]);
  }
  return uses;
}

/** @param source begins with the call; what comes after it is no matter */
function useAt(file: string, source: string): PhraseUse {
  const script = ts.createSourceFile('use.ts', source.slice(0, 5000), ts.ScriptTarget.Latest, true);
  let call: ts.CallExpression | undefined;
  const visit = (node: ts.Node): void => {
    if (ts.isCallExpression(node) && /^say(\.parts)?$/.test(node.expression.getText(script))) call ??= node;
    if (!call) ts.forEachChild(node, visit);
  };
  visit(script);
  const [key, filling] = call?.arguments ?? [];
  return {
    file,
    key: key && ts.isStringLiteral(key) ? key.text : undefined,
    names: filling === undefined ? [] : readNames(filling),
  };
}

function readNames(filling: ts.Expression): readonly string[] | undefined {
  if (!ts.isObjectLiteralExpression(filling)) return undefined;
  const names = filling.properties.map((each) => each.name?.getText());
  return names.every((name) => name !== undefined) ? names : undefined;
}
