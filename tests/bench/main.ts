// Measures, judges nothing: `npm run bench` all of it, `npm run bench -- NAME` one part, `npm run bench -- --quick` without the largest sizes.
import { readFileSync } from 'node:fs';
import { benchDocument } from './document.ts';
import { benchFiles } from './files.ts';
import { benchFaces } from './faces.ts';
import { benchKits } from './kits.ts';
import { benchOpenings } from './openings.ts';
import { benchPage } from './page.ts';
import { benchPlacement } from './placement.ts';
import { benchSchedules } from './schedules.ts';
import { benchServer } from './server.ts';
import { benchSpine } from './spine.ts';
import { benchStages } from './stages.ts';
import { benchStructure } from './structure.ts';
import { benchTilings } from './tilings.ts';

const [asked] = process.argv.slice(2).filter((a) => a !== '--quick');
const quick = process.argv.includes('--quick');

const PARTS: Readonly<Record<string, () => void | Promise<void>>> = {
	stages: () => benchStages(quick ? [1_000, 10_000, 100_000] : [1_000, 10_000, 100_000, 1_000_000]),
	spine: benchSpine,
	placement: benchPlacement,
	structure: () => benchStructure(quick),
	schedules: benchSchedules,
	files: () => benchFiles(quick),
	document: benchDocument,
	faces: () => benchFaces(quick ? 100 : 316),
	openings: () => benchOpenings(quick),
	kits: () => benchKits(quick ? 3 : 9),
	tilings: () => (quick ? benchTilings([10_000], [5_000]) : benchTilings([10_000, 100_000], [5_000, 20_000])),
	server: () => benchServer(quick ? 1 : 5),
	page: () => benchPage(quick ? 1 : 3)
};
if (asked !== undefined && !(asked in PARTS)) {
	console.error(`There is no part “${asked}”; there are ${Object.keys(PARTS).join(', ')}.`);
	process.exit(2);
}

/** Time of the processors: what was wanted of them, and what of that others on the same machine got. Source: proc(5), stat. */
function processors(): { wanted: number; taken: number } | undefined {
	try {
		const line = readFileSync('/proc/stat', 'utf8').split('\n', 1)[0]!;
		const [user = 0, nice = 0, system = 0, , , irq = 0, softIrq = 0, taken = 0] = line.split(/ +/).slice(1).map(Number);
		return { wanted: user + nice + system + irq + softIrq + taken, taken };
	} catch {
		return undefined;
	}
}

for (const [name, run] of Object.entries(PARTS)) {
	if (asked !== undefined && asked !== name) continue;
	const before = processors();
	await run();
	const after = processors();
	if (!before || !after) continue;
	const share = (after.taken - before.taken) / Math.max(1, after.wanted - before.wanted);
	console.log(`(of the processor time wanted meanwhile others on this machine got ${(100 * share).toFixed(0)} %)`);
}
