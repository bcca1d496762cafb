import { run } from './main.ts';

process.exitCode = await run(process.argv.slice(2), {
  out: (text) => process.stdout.write(text),
  problem: (text) => process.stderr.write(text),
});
