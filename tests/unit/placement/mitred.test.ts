import { expect } from 'chai';
import Manifold from 'manifold-3d';
import { compileKit } from '../../../src/core/kit/compileKit.ts';
import { evaluateKit } from '../../../src/core/kit/evaluate.ts';
import type { LooseGeometry, PartGeometry } from '../../../src/core/kit/result.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { settleValues } from '../../../src/core/kit/values.ts';
import { roomsAt } from '../../../src/core/placement/rooms.ts';
import { placed, withRules } from './make.ts';

const kit = kitSchema.parse(STARTER_KITS.find((k) => k.id === 'mitred-mullion'));

/** The kit on edges between points, all of which look out along y. */
function onEdges(points: number[][], edges: number[][], values: Record<string, number>) {
	const position = Float64Array.from(points.flat());
	const cornerStart = Uint32Array.from({ length: edges.length + 1 }, (_, k) => 2 * k);
	const corners = Uint32Array.from(edges.flat());
	const ids = Uint32Array.from(edges.keys());
	const rooms = roomsAt(
		{ cornerStart, corners, position },
		[{ job: { hosts: ids, given: values, columns: {} }, kit }],
		[]
	);
	const program = compileKit(kit, { kind: 'edge', corners: 2 }, { library: new Map(), modules: new Map() } as never);
	const result = evaluateKit(program, settleValues(kit, values).values, {
		ids,
		cornerStart,
		corners,
		position,
		normal: Float64Array.from(edges.flatMap(() => [0, 1, 0])),
		ways: (e, end) => rooms.waysAt(e, end),
		reading: () => undefined
	});
	expect(result.failures).to.deep.equal([]);
	return result.parts[0]!;
}

/** Volume of all pieces of bodies together, mm3 (manifold-3d). */
async function union(geometry: PartGeometry): Promise<number> {
	const { positions, positionStart, triangles, triangleStart, rows } = geometry as LooseGeometry;
	const wasm = await Manifold();
	wasm.setup();
	const bodies = [...rows.keys()].map((k) => {
		const mesh = new wasm.Mesh({
			numProp: 3,
			vertProperties: Float32Array.from(positions.subarray(positionStart[k], positionStart[k + 1])),
			triVerts: triangles.slice(triangleStart[k], triangleStart[k + 1])
		});
		mesh.merge();
		return new wasm.Manifold(mesh);
	});
	return wasm.Manifold.union(bodies).volume();
}

// A section without a hole: a wall of half its width is all of it.
const SOLID = { width: 60, depth: 60, wall: 50 };

describe('bars mitred at nodes', () => {
	it('make a square frame of the length of its sides, cut at 45 degrees', () => {
		const points = [
			[0, 0, 0],
			[1000, 0, 0],
			[1000, 0, 1000],
			[0, 0, 1000]
		];
		const sides = [
			[0, 1],
			[1, 2],
			[2, 3],
			[3, 0]
		];
		const { length, volume } = onEdges(points, sides, { width: 60, depth: 100, wall: 3 });
		// The middle of a mitred section runs along its side; its outer edge is half a width longer at each end.
		const section = 60 * 100 - 54 * 94;
		for (let k = 0; k < 4; k++) {
			expect(volume[k]!).to.be.closeTo(1000 * section, 1e-3);
			expect(length[k]!).to.be.closeTo(1060, 1e-6);
		}
	});

	it('share a crossing of four among them: four quarters of a square, by hand', () => {
		const points = [
			[0, 0, 0],
			[1000, 0, 0],
			[0, 0, 1000],
			[-1000, 0, 0],
			[0, 0, -1000]
		];
		const arms = [
			[0, 1],
			[0, 2],
			[0, 3],
			[4, 0]
		];
		const { volume, length } = onEdges(points, arms, { width: 60, depth: 60, wall: 3 });
		// Flanges end in a right-angled point: 60 x 1000 less 30 x 30. Webs are 1000 less their distance from the middle, 27 to 30.
		const flanges = 2 * 3 * (60 * 1000 - 30 * 30);
		const webs = 2 * 54 * (3 * 1000 - (30 * 30 - 27 * 27) / 2);
		expect(length.every((x) => Math.abs(x - 1000) < 1e-6)).to.equal(true);
		for (const v of volume) expect(v).to.be.closeTo(flanges + webs, 1e-3);
	});

	it('fill their joints without lying in each other, at any angle and valence (manifold-3d)', async () => {
		for (const degrees of [
			[0, 90, 180, 270],
			[0, 120, 240],
			[0, 60, 120, 180, 240, 300],
			[10, 75, 170, 260, 300],
			[0, 50]
		]) {
			const points = [
				[0, 0, 0],
				...degrees.map((d) => [
					1000 * Math.cos((d * Math.PI) / 180),
					60 * Math.sin(d),
					1000 * Math.sin((d * Math.PI) / 180)
				])
			];
			const { volume, geometry } = onEdges(
				points,
				degrees.map((_, k) => [0, k + 1]),
				SOLID
			);
			const sum = volume.reduce((a, b) => a + b, 0);
			expect(sum / (await union(geometry)), degrees.join()).to.be.closeTo(1, 1e-4);
		}
	});

	it('close on a warped face and leave the gap that is asked for', async () => {
		const made = async (values: Record<string, number>) => {
			const project = withRules([], 6, 5);
			project.kits = [kit];
			project.rules = [{ id: 'm', set: 'edges', faces: ['canopy/skin'], where: [], kit: kit.id, values }] as never;
			const { face, model } = await placed(project);
			expect(model.warnings.filter((w) => w.stage === 'placement')).to.deep.equal([]);
			return { part: face.placements.flatMap((p) => p.parts)[0]!, face };
		};
		const { part, face } = await made({ ...SOLID, wall: 25 });
		expect(part.pieces.reduce((a, b) => a + b, 0)).to.equal(face.cells.edgeCount);
		const gap = await made({ ...SOLID, wall: 25, gap: 10 });
		part.length.forEach((length, k) => expect(length - gap.part.length[k]!).to.be.closeTo(20, 1e-6));
	});
});
