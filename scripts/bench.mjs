// Runs the benchmarks as what ships runs: bundled, without what a TypeScript loader puts between.
import { spawnSync } from 'node:child_process';
import { bundle } from './lib/bundle.mjs';

const OUT = '.cache/bench';
await bundle({ main: 'tests/bench/main.ts' }, OUT, 'external');
process.exitCode = spawnSync('node', [`${OUT}/main.mjs`, ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1;
