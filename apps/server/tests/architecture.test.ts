/** The house's arrows and habits, held by reading the code. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { api } from '@fastigium/contracts/api';
import { ERRORS, type ErrorCode } from '@fastigium/contracts/errors';
import { ENGLISH } from '@fastigium/words';
import type { Endpoint } from '@fastigium/contracts/endpoint';
import { openApiDocument } from '@fastigium/contracts/openapi';
import { describe, expect, it } from 'vitest';
// @ts-expect-error Plain JavaScript, because a command of the project shows the same.
import * as parts from '../../../scripts/lib/layers.mjs';
import { environment } from '../src/config/environment.ts';

const root = new URL('../../..', import.meta.url).pathname;
type Imports = Map<string, Map<string, string[]>>;
const { featureImports, webImports, layersOf } = parts as {
  featureImports(root: string): Imports;
  webImports(root: string): Imports;
  layersOf(between: Imports): { layers: string[][]; circles: string[] };
};
const sources = ['packages', 'apps', 'demo', 'bench', 'e2e'].flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true, withFileTypes: true })
    .filter(
      (entry) =>
        entry.isFile() && /\.(ts|vue)$/.test(entry.name) && !/node_modules|dist|testdata/.test(entry.parentPath),
    )
    .map((entry) => join(entry.parentPath, entry.name)),
);
const place = (file: string) => relative(root, file);
const isTest = (file: string) => /\.test\.ts$|\/tests\/|^e2e\//.test(place(file));
const imports = (file: string) =>
  [...readFileSync(file, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)].map(([, name = '']) => name);

/** The part of the house a file or an import belongs to; undefined for what comes from the registry. */
function partOf(path: string): string | undefined {
  const workspace = /^@fastigium\/(\w+)/.exec(path)?.[1];
  if (workspace) return workspace;
  return /^(?:packages|apps)\/(\w+)\//.exec(path)?.[1];
}

const ALLOWED: Readonly<Record<string, readonly string[]>> = {
  core: [],
  contracts: ['core'],
  wire: ['core'],
  standins: ['contracts', 'core', 'wire'],
  words: ['core', 'contracts'],
  server: ['core', 'contracts', 'wire', 'words'],
  web: ['core', 'contracts', 'words'],
};

describe('the arrows', () => {
  it('point only where they may', () => {
    const checked = sources.filter((file) => partOf(place(file)) !== undefined && !isTest(file));
    expect(checked.length).toBeGreaterThan(80);
    const wrong = checked.flatMap((file) => {
      const from = partOf(place(file)) ?? '';
      return imports(file).flatMap((name) => {
        const to = name.startsWith('.') ? partOf(place(resolve(dirname(file), name))) : partOf(name);
        return to === undefined || to === from || ALLOWED[from]?.includes(to) ? [] : [`${place(file)} → ${name}`];
      });
    });
    expect(wrong).toEqual([]);
  });

  it('point down inside the server: features stand in the layers that the documentation says', () => {
    const { layers, circles } = layersOf(featureImports(root));
    expect(circles).toEqual([]);
    const said = readFileSync(join(root, 'docs/architecture.md'), 'utf8').matchAll(/^\d+\. ((?:`\w+`(?:, )?)+)$/gm);
    expect([...said].map(([, names = '']) => names.replaceAll('`', '').split(', '))).toEqual(layers);
  });

  it('point down in the web application: no station to another, no component to a feature, no logic to Vue', () => {
    const between = webImports(root);
    expect(layersOf(between).circles).toEqual([]);
    const wrong = [...between].flatMap(([part, others]) =>
      [...others].flatMap(([other, found]) => {
        const isStation = part.startsWith('stations/') && part !== 'stations/shared';
        const isWrong =
          (isStation && other.startsWith('stations/') && other !== 'stations/shared') ||
          (part === 'components' && other !== 'logic' && other !== 'words') ||
          (part === 'logic' && other !== 'words') ||
          part === 'words';
        return isWrong ? found : [];
      }),
    );
    expect(wrong).toEqual([]);
    const logic = sources.filter((file) => place(file).startsWith('apps/web/src/logic/') && !isTest(file));
    expect(logic.length).toBeGreaterThan(8);
    const withVue = logic.filter((file) => imports(file).some((name) => /^(?:vue|pinia|@vueuse)/.test(name)));
    expect(withVue.map(place)).toEqual([]);
  });

  it('leave the core without clock, chance, network and Node', () => {
    const core = sources.filter(
      (file) => place(file).startsWith('packages/core/src/') && !isTest(file) && !file.endsWith('.d.ts'),
    );
    expect(core.length).toBeGreaterThan(25);
    const code = (file: string) => readFileSync(file, 'utf8').replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, '');
    expect(
      core
        .filter((file) => /['"]node:|Date\.now|new Date\(|Math\.random|\bfetch\(|\bprocess\./.test(code(file)))
        .map(place),
    ).toEqual([]);
  });

  it('let nothing but the configuration read the environment', () => {
    const server = sources.filter((file) => place(file).startsWith('apps/server/src/') && !isTest(file));
    expect(
      server
        .filter((file) => readFileSync(file, 'utf8').includes('process.env'))
        .map(place)
        .sort(),
    ).toEqual([
      // The command line is a program of its own.
      'apps/server/src/cli/keeping.ts',
      'apps/server/src/main.ts',
    ]);
  });

  it('keep colours in the theme alone', () => {
    const web = sources.filter(
      (file) => place(file).startsWith('apps/web/src/') && !isTest(file) && !file.endsWith('theme.ts'),
    );
    expect(
      web
        .filter((file) =>
          /#[0-9a-f]{3,8}\b(?!-)|rgba?\(\d/i.test(readFileSync(file, 'utf8').replace(/#(content|app|part)\b/g, '')),
        )
        .map(place),
    ).toEqual([]);
  });
});

describe('errors', () => {
  const codes = Object.keys(ERRORS) as ErrorCode[];
  const code = sources
    .filter((file) => !isTest(file) && !file.endsWith('errors.ts'))
    .map((file) => readFileSync(file, 'utf8'))
    .join('\n');

  it('are all thrown somewhere, and say what to do next', () => {
    expect(codes.length).toBeGreaterThan(20);
    expect(codes.filter((each) => !code.includes(`'${each}'`))).toEqual([]);
    const words = (ENGLISH.catalogue['error'] ?? {}) as Readonly<Record<string, string>>;
    expect(codes.filter((each) => !/\.$/.test(words[each] ?? '') || ERRORS[each].status < 400)).toEqual([]);
  });

  it('stand in the documentation', () => {
    const text = readFileSync(join(root, 'docs/errors.md'), 'utf8');
    // A choice or a plural is named by what it depends on.
    const brief = (pattern: string) => pattern.replace(/\{(\w+)[^{}]*(?:\{[^{}]*\}[^{}]*)*\}/g, '{$1}');
    const words = (ENGLISH.catalogue['error'] ?? {}) as Readonly<Record<string, string>>;
    const row = (each: ErrorCode) => `| \`${each}\` | ${ERRORS[each].status} | ${brief(words[each] ?? '')} |`;
    expect(codes.map(row).filter((each) => !text.includes(each))).toEqual([]);
  });
});

describe('what the documentation names', () => {
  const read = (path: string) => readFileSync(join(root, path), 'utf8');

  it('as tests is there', () => {
    const names = [...read('docs/security.md').matchAll(/`([\w/]+\.test\.ts)`/g)].map(([, name]) => name ?? '');
    const files = [...sources, ...readdirSync(join(root, 'scripts')).map((name) => `/scripts/${name}`)];
    expect(names.length).toBeGreaterThan(50);
    expect(names.filter((name) => !files.some((file) => file.endsWith(`/${name}`)))).toEqual([]);
  });

  it('as settings is one, and every one that has to be set is named', () => {
    const text = read('docs/operations.md');
    const known = Object.keys(environment.shape);
    const named = [...new Set(text.match(/FASTIGIUM_[A-Z_]*[A-Z]/g) ?? [])];
    // Of the command line alone.
    expect(named.filter((name) => !known.includes(name) && name !== 'FASTIGIUM_BACKUP_PASSPHRASE')).toEqual([]);
    const needed = known.filter(
      (name) => !environment.shape[name as keyof typeof environment.shape].safeParse(undefined).success,
    );
    expect(needed.length).toBe(3);
    expect(needed.filter((name) => !named.includes(name))).toEqual([]);
  });
});

describe('the OpenAPI document', () => {
  const document = openApiDocument('1') as {
    openapi: string;
    paths: Record<string, Record<string, { operationId: string; responses: object }>>;
  };

  it('has every endpoint once', () => {
    const endpoints = Object.values(api).flatMap((feature) => Object.values(feature as Record<string, Endpoint>));
    const operations = Object.values(document.paths).flatMap((path) => Object.values(path));
    expect(endpoints.length).toBeGreaterThan(20);
    expect(operations).toHaveLength(endpoints.length);
    expect(new Set(operations.map(({ operationId }) => operationId)).size).toBe(endpoints.length);
    expect(document.openapi).toBe('3.1.0');
  });

  it('names every path parameter', () => {
    for (const [path, operations] of Object.entries(document.paths)) {
      for (const operation of Object.values(operations)) {
        const named = (operation as unknown as { parameters: { name: string; in: string }[] }).parameters
          .filter((each) => each.in === 'path')
          .map(({ name }) => name)
          .sort();
        expect(named).toEqual([...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name).sort());
      }
    }
  });
});
