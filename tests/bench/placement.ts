// Rules, fields and what is set by hand: part of `npm run bench`.
import { changeWithPatches } from '../../src/core/project/patch.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import { checkDocument } from '../../src/core/project/read.ts';
import { drawPaths } from '../../src/core/placement/drawn/drawPaths.ts';
import { pathSchema } from '../../src/core/placement/drawn/schema.ts';
import type { Rule } from '../../src/core/placement/rules/schema.ts';
import { assign } from '../../src/core/placement/rules/assign.ts';
import { inputsOf, rulesByFace } from '../../src/core/project/faceInputs.ts';
import { kitWorldOf } from '../../src/core/project/kitWorld.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { setByHand } from '../../src/lib/editor/byHand.ts';
import { STARTER_KITS } from '../../src/core/kit/starters/index.ts';
import { editTime, vaults } from './spine.ts';

const RUNS = 9;
const now = () => performance.now();
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const FACE = 'mass-0/skin';

/** One face with five rules on its cells, three fields, and a mullion on every edge. */
export function ruled(across: number, up: number): Project {
	const project = vaults(1, across, up);
	project.kits = structuredClone([...STARTER_KITS]);
	project.fields = [
		{
			id: 'near',
			name: 'Near',
			source: {
				kind: 'distance',
				to: [
					{
						kind: 'curve',
						points: [
							[0, 0, 0],
							[20_000, 40_000, 5000],
							[0, 90_000, 0]
						],
						closed: false
					}
				],
				combine: 'least',
				blend: 1000,
				along: 'straight'
			}
		},
		{ id: 'up_there', name: 'Up there', source: { kind: 'height' } },
		{ id: 'mix', name: 'Mix', source: { kind: 'formula', formula: 'near / 2 + up_there' } }
	];
	const rule = (id: string, kit: string | null, where: Rule['where'], values: Rule['values'] = {}): Rule => ({
		id,
		set: 'panels',
		faces: [FACE],
		where,
		kit,
		values
	});
	project.rules = [
		rule('a', null, [{ kind: 'lines', of: 'column', from: 7, every: 11 }]),
		rule('b', 'flat-pane', [{ kind: 'border', state: 'border', within: 1 }]),
		rule('c', 'flat-pane', [{ kind: 'field', field: 'mix', to: 8000 }]),
		rule('d', 'framed-pane', [{ kind: 'rank', reading: 'warp', most: 'greatest', count: 500 }], { frameWidth: 120 }),
		rule('e', 'framed-pane', [], { frameWidth: { kind: 'field', field: 'near', from: 60, to: 200 } }),
		{ id: 'm', set: 'edges', faces: [FACE], where: [], kit: 'mullion', values: {} }
	];
	return checkDocument(project);
}

/** Median time of saying which rule takes which host, ms. */
async function assignTime(project: Project): Promise<number> {
	const model = await runPipeline(project, { memo: new Memo(), now });
	const [face] = model.faces;
	const world = kitWorldOf(project);
	const { rules } = inputsOf(project, rulesByFace(project), world, project.masses[0]!, 0, '');
	const { charted, nodes, cells, readings } = face!;
	const times = Array.from({ length: 6 * RUNS }, () => {
		const start = now();
		assign(
			rules,
			{ ...rules, openings: [] },
			{ surface: charted.surface, charted, nodes, cells, readings },
			world.library
		);
		return now() - start;
	});
	return median(times.slice(-RUNS));
}

/** Median time of tracing 500 paths over a grid, ms. */
async function traceTime(): Promise<number> {
	const model = await runPipeline(ruled(500, 20), { memo: new Memo(), now });
	const { charted, nodes, cells, readings } = model.faces[0]!;
	const path = pathSchema.parse({
		id: 'p',
		name: 'Ribs',
		mark: 'P',
		face: FACE,
		source: { kind: 'traced', from: [0, 0, 0, 1], up: 1, across: 0 },
		array: { kind: 'along', way: 'across', every: 1, count: 500 }
	});
	const times = Array.from({ length: 3 * RUNS }, () => {
		const start = now();
		drawPaths([path], { surface: charted.surface, charted, nodes, cells, readings });
		return now() - start;
	});
	return median(times.slice(-RUNS));
}

function movePoint(project: Project, run: number): void {
	const { source } = project.fields[0]!;
	if (source.kind === 'distance') source.to[0]!.points[1] = [20_000 + run * 10, 40_000, 5000];
}

export async function benchPlacement(): Promise<void> {
	console.log('\nPlacement: five rules, three fields, framed panes and mullions');
	const project = ruled(100, 100);
	console.log(`  assignment on 10,000 cells, warm         ${(await assignTime(project)).toFixed(1)} ms (limit 15)`);
	console.log(
		`  a point of a field moved, 10,000 cells   ${(await editTime(project, (run) => movePoint(project, run))).toFixed(1)} ms (limit 500 to the picture)`
	);
	const hand = ruled(100, 100);
	const one = await editTime(hand, (run) => {
		hand.overrides = [];
		setByHand(hand, 'panels', [{ face: FACE, row: 20, column: 20 + run, piece: 0 }], { values: { frameWidth: 150 } });
	});
	console.log(`  one cell of 10,000 set by hand           ${one.toFixed(1)} ms (limit 50)`);
	const small = ruled(40, 50);
	console.log(
		`  a point of a field dragged, 2,000 cells  ${(await editTime(small, (run) => movePoint(small, run))).toFixed(1)} ms a step (limit 60)`
	);
	const many = ruled(100, 200);
	many.overrides = Array.from({ length: 20_000 }, (_, k) => ({
		id: `hand-${k}`,
		set: 'panels',
		face: FACE,
		hosts: [[Math.floor(k / 100), k % 100, k % 100, 0, 0]],
		values: { frameWidth: 100 + (k % 50) }
	}));
	let checked = checkDocument(many);
	const commits = Array.from({ length: 3 * RUNS }, (_, run) => {
		const start = now();
		checked = changeWithPatches(checked, (draft) =>
			setByHand(draft, 'panels', [{ face: FACE, row: run, column: 3, piece: 0 }], { kit: 'flat-pane' })
		).project;
		return now() - start;
	});
	console.log(`  a commit beside 20,000 set by hand       ${median(commits.slice(-RUNS)).toFixed(1)} ms (limit 20)`);
	const large = ruled(250, 400);
	console.log(
		`  a point of a field moved, 100,000 cells  ${(await editTime(large, (run) => movePoint(large, run))).toFixed(0)} ms in the background`
	);
	console.log(`  500 paths traced on 10,000 cells         ${(await traceTime()).toFixed(1)} ms (limit 30)`);
}

if (process.argv[1]?.endsWith('placement.ts')) await benchPlacement();
