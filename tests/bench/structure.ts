// Bars, joined frames, mitres, bays, and picking among many nodes: part of `npm run bench`.
import { kitSchema } from '../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../src/core/kit/starters/index.ts';
import { fineLevel, joinedMesh } from '../../src/core/placement/joined/joinedMesh.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import { checkDocument } from '../../src/core/project/read.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { Picking } from '../../src/lib/worker/picking.ts';
import { editTime, vaults } from './spine.ts';

const RUNS = 7;
const now = () => performance.now();
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const FACE = 'mass-0/skin';

/** One face with a kit on its edges, or on bays of its own size. */
function carrying(kit: string, across: number, up: number): Project {
	const project = vaults(1, across, up);
	const made = kitSchema.parse(STARTER_KITS.find((k) => k.id === kit));
	project.kits = [made];
	project.rules = [];
	const set = made.host.kind === 'bay' ? 'bays' : 'edges';
	if (made.host.kind === 'bay')
		project.sets.push({ id: 'bays', name: 'Bays', host: 'bay', bay: { across: made.host.across, up: made.host.up } });
	project.rules.push({ id: 'r', set, faces: [FACE], where: [], kit, values: {} });
	return checkDocument(project);
}

/** Another value of the kit each time, so that all of it is placed anew. */
const nudge = (project: Project, name: string) => (run: number) => {
	project.rules[0]!.values = { [name]: 60 + run / 10 };
};

/** Coarse and fine skin of a joined frame, ms, each the median of some. */
async function joinedTimes(
	project: Project
): Promise<{ readonly bars: number; readonly coarse: number; readonly fine: number }> {
	const model = await runPipeline(project, { memo: new Memo(), now });
	const [geometry] = model.faces[0]!.placements.flatMap((p) => p.parts).map((p) => p.geometry);
	if (geometry?.kind !== 'joined') throw new Error('no joined frame');
	const level = fineLevel(geometry);
	const time = (of: number) =>
		median(
			Array.from({ length: 3 }, () => {
				const start = now();
				joinedMesh({ ...geometry }, of);
				return now() - start;
			})
		);
	return { bars: geometry.rows.length, coarse: time(0), fine: time(level) };
}

/** Median time of finding the node under a ray among those of a face, ms. */
async function pickTime(across: number, up: number): Promise<{ readonly nodes: number; readonly ms: number }> {
	const model = await runPipeline(carrying('mullion', across, up), { memo: new Memo(), now });
	const { position, normal } = model.faces[0]!.nodes;
	const picking = new Picking();
	const none = new Set<string>();
	const times = Array.from({ length: 4 * RUNS }, (_, run) => {
		const n = Math.floor((position.length / 3) * ((run + 0.5) / (4 * RUNS))) * 3;
		const at = [0, 1, 2].map((c) => position[n + c]! + 5000 * normal[n + c]!) as [number, number, number];
		const way = [0, 1, 2].map((c) => -normal[n + c]!) as [number, number, number];
		const start = now();
		picking.place(model, none, at, way);
		return now() - start;
	});
	return { nodes: position.length / 3, ms: median(times.slice(RUNS)) };
}

/** Prints what bars and frames take; `quick` without what takes seconds. */
export async function benchStructure(quick: boolean): Promise<void> {
	console.log('\nStructure');
	const line = (what: string, ms: number, limit: string) =>
		console.log(`  ${what.padEnd(42)} ${ms.toFixed(ms < 10 ? 1 : 0).padStart(6)} ms (limit ${limit})`);
	const mullions = carrying('mullion', 224, 223);
	line('100,000 mullions cut back at nodes, warm', await editTime(mullions, nudge(mullions, 'width')), '250');
	if (!quick) {
		const mitred = carrying('mitred-mullion', 70, 71);
		line('10,000 mullions mitred at nodes, warm', await editTime(mitred, nudge(mitred, 'width')), 'none asked');
	}
	const frame = await joinedTimes(carrying('joined-frame', 31, 32));
	line(`joined frame of ${frame.bars} bars, fine`, frame.fine, '5000');
	line('the same, coarse', frame.coarse, 'none asked');
	const little = carrying('joined-frame', 9, 10);
	const small = await joinedTimes(little);
	const placing = await editTime(little, nudge(little, 'radius'));
	line(`joined frame of ${small.bars} bars, live`, placing + small.coarse, '400');
	const bays = carrying('folded-bay', 140, 140);
	line('4,900 folded bays of 16 parts, warm', await editTime(bays, nudge(bays, 'rise')), 'none asked');
	const picked = await pickTime(316, 316);
	line(`a node picked among ${picked.nodes}`, picked.ms, '5');
}
