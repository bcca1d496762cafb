import vue from '@vitejs/plugin-vue';
import vuetify from 'vite-plugin-vuetify';
import { configDefaults, defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Those that take a minute and more begin first: where no earlier run is known, one would run alone at the end. */
const LONGEST = ['corpus', 'killed', 'removals', 'faults', 'hostile', 'address', 'publishing', 'cluster'];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = LONGEST.findIndex((name) => moduleId.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONGEST.length : at;
    };
    return [...(await super.sort(files))].sort((a, b) => place(a) - place(b));
  }
}

const ALONE = 'apps/web/**/*.alone.test.ts';

const WEB = {
  // Only the components that templates name are loaded, as in the application.
  plugins: [vue(), vuetify()],
  test: {
    include: ['apps/web/**/*.test.ts'],
    setupFiles: ['apps/web/src/testing/setup.ts'],
    testTimeout: 30_000,
    server: { deps: { inline: ['vuetify'] } },
  },
};

export default defineConfig({
  test: {
    // Most of what takes long here waits for servers and for the disk.
    maxWorkers: 3,
    sequence: { sequencer: LongestFirst },
    projects: [
      // Properties over real pages take their time on a machine that does other things too.
      { test: { name: 'core', isolate: false, include: ['packages/**/*.test.ts'], testTimeout: 30_000 } },
      {
        test: {
          name: 'server',
          // A server is imported once in each worker, and not once for each file.
          isolate: false,
          include: ['apps/server/**/*.test.ts', 'apps/standins/**/*.test.ts', 'scripts/**/*.test.ts'],
          globalSetup: ['apps/server/tests/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        ...WEB,
        test: { ...WEB.test, name: 'web', isolate: false, exclude: [...configDefaults.exclude, ALONE] },
      },
      // What puts something else in a module's place would leave it there for the files that come after it.
      { ...WEB, test: { ...WEB.test, name: 'web alone', include: [ALONE] } },
    ],
  },
});
