// Run after any `npm install` that changes package-lock.json. Where the registry at hand lacks a
// package's builds for other platforms, npm leaves them out of the lock file and `npm ci` then refuses
// it. This adds them back, by name, version and platform, so that the lock file serves everywhere.
import { readFileSync, writeFileSync } from 'node:fs';

const SYSTEMS = ['android', 'darwin', 'freebsd', 'linux', 'netbsd', 'openbsd', 'openharmony', 'sunos', 'win32', 'aix'];
const PROCESSORS = ['arm64', 'arm', 'x64', 'ia32', 'riscv64', 'ppc64', 's390x', 'loong64', 'mips64el', 'wasm32'];

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
for (const entry of Object.values(lock.packages)) {
	for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
		const words = name.split(/[/-]/);
		const find = (known) => known.filter((word) => words.includes(word));
		const [os, cpu] = [find(SYSTEMS), find(PROCESSORS)];
		if (os.length + cpu.length === 0) continue;
		lock.packages[`node_modules/${name}`] ??= {
			version,
			optional: true,
			...(cpu.length ? { cpu } : {}),
			...(os.length ? { os } : {})
		};
	}
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync('package-lock.json', JSON.stringify(lock, null, 2) + '\n');
