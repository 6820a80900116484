import { expect } from 'chai';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { roomsAt } from '../../../src/core/placement/rooms.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { placed, withRules } from './make.ts';

const starter = (id: string) => kitSchema.parse(STARTER_KITS.find((k) => k.id === id));

/** Edges from node to node, with the same half width. */
function rooms(points: number[][], edges: number[][], width: number | number[], piece?: [number, number]) {
	const kit = starter('mullion');
	const hosts = Uint32Array.from(edges.keys());
	const columns = { width: Float64Array.from(edges, (_, k) => (Array.isArray(width) ? width[k]! : width)) };
	return roomsAt(
		{
			cornerStart: Uint32Array.from({ length: edges.length + 1 }, (_, k) => 2 * k),
			corners: Uint32Array.from(edges.flat()),
			position: Float64Array.from(points.flat())
		},
		[{ job: { hosts, given: {}, columns }, kit }],
		piece
			? [
					{
						job: { hosts: Uint32Array.of(piece[0]), given: { ball: piece[1] }, columns: {} },
						kit: starter('node-disc')
					}
				]
			: []
	);
}

/** A demo face whose fields are about 2 m, with mullions; what else is changed. */
function framed(change: (project: Project) => void): Project {
	const project = withRules([], 10, 8);
	project.kits = [starter('mullion'), starter('node-disc'), starter('round-mullion')];
	project.rules = [
		{ id: 'm', set: 'edges', faces: ['canopy/skin'], where: [], kit: 'mullion', values: { cutBack: 0 } }
	] as never;
	change(project);
	return project;
}

describe('the room that bars leave each other at nodes', () => {
	it('is half the other’s width at a right angle, nothing straight on, and h cot(a / 2) at any angle', () => {
		const at = (degrees: number) => [
			1000 * Math.cos((degrees * Math.PI) / 180),
			1000 * Math.sin((degrees * Math.PI) / 180),
			0
		];
		const pair = (degrees: number, width: number | number[] = 60) =>
			rooms(
				[[0, 0, 0], at(0), at(degrees)],
				[
					[0, 1],
					[0, 2]
				],
				width
			).start;
		expect(pair(90)[0]).closeTo(30, 1e-9);
		expect(pair(90, [60, 100])[0]).closeTo(50, 1e-9);
		expect(pair(90, [60, 100])[1]).closeTo(30, 1e-9);
		expect(pair(180)[0]).closeTo(0, 1e-9);
		for (const degrees of [20, 45, 60, 120, 150])
			expect(pair(degrees)[0], `${degrees}`).closeTo(30 / Math.tan((degrees * Math.PI) / 360), 1e-9);
		// Behind the end of a far thicker one at a blunt angle: h tan of what lacks to 180.
		expect(pair(150, [60, 2000])[0]).closeTo(30 * Math.tan(Math.PI / 6), 1e-9);
	});

	it('is that of the thickest there, or of the node piece, and of each end by itself', () => {
		const points = [
			[0, 0, 0],
			[1000, 0, 0],
			[0, 1000, 0],
			[0, -1000, 0]
		];
		const edges = [
			[0, 1],
			[0, 2],
			[3, 0]
		];
		const found = rooms(points, edges, [50, 80, 120]);
		expect([...found.start]).deep.equal([60, 25, 0]);
		expect([...found.end].map((x) => +x.toFixed(9))).deep.equal([0, 0, 25]);
		expect([...rooms(points, edges, [50, 80, 120], [0, 300]).start]).deep.equal([150, 150, 0]);
	});

	it('makes bars end there: lengths on a face are those of its edges less the room by hand', async () => {
		const { face } = await placed(framed(() => undefined));
		const [part] = face.placements.flatMap((p) => p.parts);
		const { position } = face.nodes;
		const { edgeNodes, edgeCount } = face.cells;
		const way = (from: number, to: number) => {
			const d = [0, 1, 2].map((c) => position[to * 3 + c]! - position[from * 3 + c]!);
			const size = Math.hypot(...d);
			return { size, d: d.map((x) => x / size) };
		};
		const near = (node: number, but: number) =>
			Array.from({ length: edgeCount }, (_, e) => e).flatMap((e) =>
				e === but
					? []
					: edgeNodes[e * 2] === node
						? [edgeNodes[e * 2 + 1]!]
						: edgeNodes[e * 2 + 1] === node
							? [edgeNodes[e * 2]!]
							: []
			);
		for (let e = 0; e < edgeCount; e++) {
			const [a, b] = [edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!];
			const room = (node: number, to: number) =>
				Math.max(
					0,
					...near(node, e).map((other) => {
						const cosine = way(node, to).d.reduce((s, x, c) => s + x * way(node, other).d[c]!, 0);
						return 30 / Math.tan(Math.acos(Math.max(-1, Math.min(1, cosine))) / 2);
					})
				);
			expect(part!.length[e]!).closeTo(way(a, b).size - room(a, b) - room(b, a), 1e-6);
		}
	});

	it('follows other rules: thicker bars and balls move the ends of these', async () => {
		const first = (project: Project) =>
			placed(project).then(({ face }) => {
				const { parts } = face.placements.find((p) => p.kit.id === 'mullion')!;
				return parts[0]!.length.reduce((a, b) => a + b, 0);
			});
		const alone = await first(framed(() => undefined));
		const balls = await first(
			framed((p) =>
				p.rules.push({
					id: 'n',
					set: 'nodes',
					faces: ['canopy/skin'],
					where: [],
					kit: 'node-disc',
					values: { ball: 400 }
				} as never)
			)
		);
		const edges = 10 * 9 + 8 * 11;
		expect(balls).lessThan(alone - edges * 2 * 150);
		expect(balls).greaterThan(alone - edges * 2 * 171);
	});

	it('names the parameter, and says when there is none', () => {
		const kit = { ...starter('mullion'), host: { kind: 'edge', edges: [], section: 'breadth' } };
		expect(() => kitSchema.parse(kit)).throw('must name a parameter of the kit that is a length');
	});
});
