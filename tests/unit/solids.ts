import { measureCells } from '../../src/core/readings/measureCells.ts';
import { measureEdges, measureNodes } from '../../src/core/readings/measureLines.ts';
import { measureCentres } from '../../src/core/readings/measurePlaces.ts';
import type { NodeTable } from '../../src/core/settingout/nodes.ts';
import { edgesOf } from '../../src/core/tiling/edges.ts';

type P = readonly [number, number, number];
const signs = [-1, 1];
const PHI = (1 + Math.sqrt(5)) / 2;
const around = (a: number, b: number, c: number): P[] => [
	[a, b, c],
	[c, a, b],
	[b, c, a]
];
const CUBE: P[] = signs.flatMap((x) => signs.flatMap((y) => signs.map((z): P => [x, y, z])));
const OCTAHEDRON: P[] = signs.flatMap((s) => around(s, 0, 0));
const ICOSAHEDRON: P[] = signs.flatMap((a) => signs.flatMap((b) => around(0, a, b * PHI)));
const DODECAHEDRON: P[] = [...CUBE, ...signs.flatMap((a) => signs.flatMap((b) => around(0, a * PHI, b / PHI)))];
const even = ([x, y, z]: P) => x * y * z > 0;

/** Corners of the regular solids, and the ways their faces look: the corners of the solid that is dual to each. */
export const SOLIDS: Readonly<Record<string, readonly [corners: P[], faces: P[]]>> = {
	tetrahedron: [CUBE.filter(even), CUBE.filter((p) => !even(p))],
	cube: [CUBE, OCTAHEDRON],
	octahedron: [OCTAHEDRON, CUBE],
	dodecahedron: [DODECAHEDRON, ICOSAHEDRON],
	icosahedron: [ICOSAHEDRON, DODECAHEDRON]
};

const dot = (a: P, b: P) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: P, b: P): P => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** Readings of the edges and nodes of a regular solid, its faces anticlockwise seen from outside. */
export function measureSolid(name: string) {
	const [corners, normals] = SOLIDS[name]!;
	const faces = normals.map((n) => {
		const most = Math.max(...corners.map((p) => dot(p, n)));
		const ring = corners.map((_, k) => k).filter((k) => Math.abs(dot(corners[k]!, n) - most) < 1e-9);
		const side = cross(n, corners[ring[0]!]!);
		const angle = (k: number) =>
			Math.atan2(
				dot(corners[k]!, side) / Math.hypot(...side),
				dot(corners[k]!, cross(side, n)) / Math.hypot(...cross(side, n))
			);
		return ring.sort((a, b) => angle(a) - angle(b));
	});
	const table = {
		count: faces.length,
		cornerStart: Uint32Array.from([0, ...faces].map((_, k) => faces.slice(0, k).flat().length)),
		corners: Uint32Array.from(faces.flat()),
		row: new Uint32Array(faces.length),
		column: Uint32Array.from(faces.keys())
	};
	const cells = { ...table, ...edgesOf(table) };
	const position = Float64Array.from(corners.flat());
	// Edges of a solid run on no grid.
	const nodes = {
		position,
		normal: position,
		columns: corners.length,
		rows: 1,
		us: new Float64Array(),
		vs: new Float64Array(),
		ends: {},
		fromEnd: {}
	} as unknown as NodeTable;
	const { normal } = measureCells({ position }, cells);
	return {
		cells,
		edges: measureEdges(nodes, cells, normal, measureCentres(position, cells, normal)),
		nodes: measureNodes(nodes, cells)
	};
}
