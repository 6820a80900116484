// Time of a shape edit on 2,000 cells a kind of face, and of a mesh on its way in: part of `npm run bench`.
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { readModelFile } from '../../src/core/formats/modelFiles/readModelFile.ts';
import { PRESETS } from '../../src/core/mass/presets.ts';
import type { Shape } from '../../src/core/mass/shapes.ts';
import { layPieces, preparePiece } from '../../src/core/mesh/importMesh.ts';
import { ArrayPool } from '../../src/core/arrays.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { newMass } from '../../src/core/project/newMass.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import { emptyProject } from '../../src/core/project/starter.ts';
import { faceKey, type Project } from '../../src/core/project/schema.ts';
import { NODE_READERS } from '../../src/cli/readers.ts';
import { gridMesh } from '../unit/mesh/meshes.ts';

const CELLS = { across: 50, up: 40 };
const RUNS = 9;

/** One face of a shape with 2,000 framed panes; the others are left out. */
function clad(shape: Shape): Project {
	const project = emptyProject('Bench');
	const mass = newMass(shape, [], { id: 'mass', name: 'Mass', marks: [] });
	mass.faces.forEach((face, k) => (face.facade = k === 0));
	mass.faces[0]!.settingOut = settingOutOf({ kind: 'count', count: CELLS.across }, { kind: 'count', count: CELLS.up });
	project.masses.push(mass);
	project.rules.push({
		id: 'rule',
		set: 'panels',
		faces: [faceKey(mass, mass.faces[0]!)],
		where: [],
		kit: 'framed-pane',
		values: {}
	});
	return project;
}

async function editTime(shape: Shape): Promise<{ first: number; median: number; megabytes: number }> {
	const memo = new Memo(new ArrayPool());
	const project = clad(shape);
	const times: number[] = [];
	const before = process.memoryUsage();
	for (let run = 0; run <= RUNS; run++) {
		// Moving the mass a little makes every stage run again.
		project.masses[0]!.frame = { ...project.masses[0]!.frame, turn: run * 0.01 };
		const start = performance.now();
		const model = await runPipeline(project, { memo, now: () => performance.now() });
		times.push(performance.now() - start);
		memo.recycle(model);
	}
	const after = process.memoryUsage();
	const [first, ...warm] = times;
	return {
		first: first!,
		median: warm.sort((a, b) => a - b)[RUNS >> 1]!,
		megabytes: (after.arrayBuffers + after.heapUsed - before.arrayBuffers - before.heapUsed) / 2 ** 20
	};
}

/** A roof of n x n fields, two triangles each. */
const roof = (n: number) =>
	gridMesh(n, n, (i, j) => {
		const [x, y] = [(i / n - 0.5) * 60_000, (j / n - 0.5) * 90_000];
		return [x, y, 6000 + 5000 * Math.cos(x / 27_000) * Math.cos(y / 42_000)];
	});

/** Prints what edits of shapes take, and bringing in a mesh of so many squares, in two triangles each, along either side. */
export async function benchFaces(squares: number): Promise<void> {
	console.log(`\nAn edit of a shape with ${CELLS.across * CELLS.up} framed panes on its first face, ms`);
	console.log('kind            first   median  MB held');
	const imported = layPieces([preparePiece({ name: 'Roof', mesh: roof(100) }, 1)], {
		kind: 'crease',
		angle: 0.5
	}).faces;
	const shapes: [string, Shape][] = [
		...Object.entries(PRESETS),
		['imported', { kind: 'imported', file: 'roof', faces: imported }]
	];
	for (const [kind, shape] of shapes) {
		const { first, median, megabytes } = await editTime(shape);
		console.log(
			`${kind.padEnd(14)}${first.toFixed(1).padStart(7)}${median.toFixed(1).padStart(9)}${megabytes.toFixed(1).padStart(9)}`
		);
	}
	const mesh = roof(squares);
	const obj = [
		...Array.from(
			{ length: mesh.positions.length / 3 },
			(_, v) => `v ${[...mesh.positions.subarray(v * 3, v * 3 + 3)].map((x) => x.toFixed(3)).join(' ')}`
		),
		...Array.from(
			{ length: mesh.triangles.length / 3 },
			(_, t) => `f ${[...mesh.triangles.subarray(t * 3, t * 3 + 3)].map((v) => v + 1).join(' ')}`
		)
	].join('\n');
	const steps = [performance.now()];
	const { pieces } = await readModelFile('roof.obj', new TextEncoder().encode(obj), NODE_READERS);
	steps.push(performance.now());
	const prepared = preparePiece(pieces[0]!, 1);
	steps.push(performance.now());
	const { report } = layPieces([prepared], { kind: 'crease', angle: 0.5 });
	steps.push(performance.now());
	const [read, mend, lay] = steps.slice(1).map((t, k) => (t - steps[k]!).toFixed(0));
	console.log(
		`\nA mesh of ${mesh.triangles.length / 3} triangles as OBJ: read ${read} ms, mended ${mend} ms, parted and laid over ${lay} ms; off by ${report.faces[0]!.deviationMm.toFixed(2)} mm`
	);
}
