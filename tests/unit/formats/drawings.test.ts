import { expect } from 'chai';
import DxfParser from 'dxf-parser';
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { developedDrawing } from '../../../src/core/drawing/developedDrawing.ts';
import { sheetSchema } from '../../../src/core/project/sheets.ts';
import { cutDrawing } from '../../../src/core/drawing/cutDrawing.ts';
import type { DrawnLine } from '../../../src/core/drawing/drawing.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { partsOf } from '../../../src/core/schedule/parts.ts';
import { typesOf } from '../../../src/core/schedule/types/pieceTypes.ts';
import { plain } from '../block.ts';
import { demoWith, ranDemo, run, setRules, shippedDemo } from '../demo.ts';
import { kitOf } from '../kit/make.ts';
import { fileOf } from '../schedules.ts';

/** A small canopy with one of its openings, and a level that cuts it. */
async function small() {
	const project = demoWith(4, 3);
	project.levels = [{ id: 'l', name: 'Level', height: 1000 }];
	project.masses[0]!.faces[0]!.openings = shippedDemo().masses[0]!.faces[0]!.openings.slice(0, 1);
	return { project, model: await run(project) };
}

const lengthOf = (points: readonly (readonly [number, number])[]) =>
	points.reduce((sum, [x, y], k) => {
		const [nextX, nextY] = points[(k + 1) % points.length]!;
		return sum + Math.hypot(nextX - x, nextY - y);
	}, 0);

/** What a closed path encloses, y downwards: above 0 clockwise as it is seen. Of cubic curves exactly, by their Bernstein form. */
function pathArea(d: string): number {
	let area = 0;
	let start: readonly number[] = [];
	svgpath(d)
		.abs()
		.unarc()
		.iterate(([kind, ...to], _, x, y) => {
			if (kind === 'M') start = to as number[];
			const at = (kind === 'Z' ? start : to) as number[];
			if (kind === 'L' || kind === 'Z') area += (x * at[1]! - at[0]! * y) / 2;
			if (kind !== 'C') return;
			const [x1, y1, x2, y2, x3, y3] = at as [number, number, number, number, number, number];
			const cross = (ax: number, ay: number, bx: number, by: number) => ax * by - bx * ay;
			area +=
				(6 * cross(x, y, x1, y1) +
					3 * cross(x, y, x2, y2) +
					cross(x, y, x3, y3) +
					3 * cross(x1, y1, x2, y2) +
					3 * cross(x1, y1, x3, y3) +
					6 * cross(x2, y2, x3, y3)) /
				20;
		});
	return area;
}

describe('drawings of faces laid flat', () => {
	it('come back from DXF with every outline, on its layer (package dxf-parser)', async () => {
		const { project, model } = await small();
		const drawing = developedDrawing(project, model);
		const text = new TextDecoder().decode(await fileOf(project, model, 'dxf'));
		const dxf = new DxfParser().parseSync(text)!;
		const layers = Object.keys(dxf.tables.layer.layers);
		expect(layers).deep.equal(drawing.layers.map((l) => l.name));
		expect(layers).include.members(['C1-grid', 'C1-border', 'C1-openings', 'C1-marks']);
		type Entity = { type: string; layer: string; vertices?: { x: number; y: number }[]; text?: string };
		const entities = dxf.entities as unknown as Entity[];
		for (const { name, lines, texts } of drawing.layers) {
			const own = entities.filter((e) => e.layer === name && e.type !== 'TEXT');
			expect(own.length, name).equal(lines.length);
			own.forEach(({ vertices }, k) => {
				const { points } = lines[k]!;
				const wanted = Array.from(
					{ length: points.length / 2 },
					(_, p) => [points[p * 2]!, points[p * 2 + 1]!] as const
				);
				expect(lengthOf(vertices!.map((v) => [v.x, v.y] as const)) / lengthOf(wanted)).closeTo(1, 1e-6);
			});
			expect(entities.filter((e) => e.layer === name && e.type === 'TEXT').map((e) => e.text)).deep.equal(
				texts.map((t) =>
					t.text.replace(/[^\x20-\x7e]/g, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`)
				)
			);
		}
		// Cells and their marks, one each.
		const { count } = model.faces[0]!.cells;
		expect(entities.filter((e) => e.layer === 'C1-grid').length).equal(count);
		expect(new Set(entities.filter((e) => e.layer === 'C1-marks').map((e) => e.text)).size).equal(count);
	});

	it('are as large as the scale says in SVG, with cells named by their marks (an XML parser)', async () => {
		const { project, model } = await small();
		const drawing = developedDrawing(project, model);
		const read = async (scale: number) => {
			const text = new TextDecoder().decode(await fileOf(project, model, 'svg', { scale }));
			return new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(text) as {
				svg: { width: string; viewBox: string; g: { id: string; path?: unknown }[] };
			};
		};
		const { svg } = await read(50);
		const [x0, , x1] = drawing.bounds;
		// 10 mm of paper around.
		expect(parseFloat(svg.width)).closeTo((x1 - x0) / 50 + 20, 0.01);
		expect(Number(svg.viewBox.trim().split(' ')[2])).closeTo(x1 - x0 + 1000, 0.01);
		const grid = svg.g.find((g) => g.id === 'C1-grid')!.path as { 'data-mark': string; d: string }[];
		expect(grid.length).equal(model.faces[0]!.cells.count);
		expect(grid[0]!['data-mark']).equal('C1-01-01');
		// The first cell's outline, back from its path.
		const points = [...grid[0]!.d.matchAll(/(-?[\d.]+) (-?[\d.]+)/g)].map(
			(m) => [Number(m[1]), -Number(m[2])] as const
		);
		const { points: wanted } = drawing.layers.find((l) => l.name === 'C1-grid')!.lines[0]!;
		points.flat().forEach((x, k) => expect(x).closeTo(wanted[k]!, 0.001));
		const other = await read(200);
		expect((parseFloat(other.svg.width) - 20) * 4).closeTo(parseFloat(svg.width) - 20, 0.02);
	});

	it('keep the outlines of cells near what they are in space, though the face is doubly curved', async () => {
		const { project, model } = await small();
		const drawing = developedDrawing(project, model);
		const face = model.faces[0]!;
		const { position } = face.nodes;
		const { cells } = face;
		const lines = drawing.layers.find((l) => l.name === 'C1-grid')!.lines;
		const stretch: number[] = [];
		for (let c = 0; c < cells.count; c++) {
			const corners = [...cells.corners.subarray(cells.cornerStart[c], cells.cornerStart[c + 1])];
			const space = corners.reduce((sum, a, k) => {
				const b = corners[(k + 1) % corners.length]!;
				return sum + Math.hypot(...[0, 1, 2].map((x) => position[a * 3 + x]! - position[b * 3 + x]!));
			}, 0);
			const { points } = lines[c]!;
			stretch.push(lengthOf(corners.map((_, k) => [points[k * 2]!, points[k * 2 + 1]!] as const)) / space);
		}
		for (const s of stretch) expect(s).within(0.9, 1.1);
	});

	it('have zones by their borders: as long as the sides that lead out of them', async () => {
		const { project, model } = await small();
		const face = model.faces[0]!;
		// Two cells of four across: the sides between them are inside.
		project.zones = [
			{ id: 'z', name: 'Bay', colour: '#2b7a73', parts: [{ face: face.key, runs: [[0, 0, 1]] }] }
		] as typeof project.zones;
		const drawing = developedDrawing(project, model);
		const zones = drawing.layers.find((l) => l.name === 'C1-zones')!;
		expect(zones.lines.every((l) => l.mark === 'Bay' && l.points.length === 4)).equal(true);
		const grid = drawing.layers.find((l) => l.name === 'C1-grid')!.lines;
		const ends = (points: readonly number[]) =>
			Array.from({ length: points.length / 2 }, (_, k) => [points[k * 2]!, points[k * 2 + 1]!] as const);
		const [a, b] = [grid[0]!, grid[1]!].map((l) => ends(l.points)) as [
			ReturnType<typeof ends>,
			ReturnType<typeof ends>
		];
		// By hand: both outlines, less twice the side that they share.
		const shared = a.filter(([x, y]) => b.some(([u, v]) => Math.hypot(u - x, v - y) < 1e-6));
		expect(shared.length).equal(2);
		const inside = Math.hypot(shared[1]![0] - shared[0]![0], shared[1]![1] - shared[0]![1]);
		const around = zones.lines.reduce((sum, { points: [x, y, u, v] }) => sum + Math.hypot(u! - x!, v! - y!), 0);
		expect(around).closeTo(lengthOf(a) + lengthOf(b) - 2 * inside, 1e-6);
	});

	it('of a sheet come as DXF and SVG, too: an elevation with its edges; rows and pieces do not (dxf-parser)', async () => {
		const { project, model } = await small();
		project.handover.sheets = [
			sheetSchema.parse({ id: 'e', name: 'E', view: { kind: 'elevation' } }),
			sheetSchema.parse({ id: 't', name: 'Types', view: { kind: 'types' } })
		];
		const dxf = new DxfParser().parseSync(
			new TextDecoder().decode(await fileOf(project, model, 'dxf', { sheet: 'e' }))
		)!;
		expect(Object.keys(dxf.tables.layer.layers)).include.members(['C1-grid', 'C1-border']);
		// Facing the north: x runs to the west, and heights are those of nodes.
		const { position } = model.faces[0]!.nodes;
		const heights = Array.from({ length: position.length / 3 }, (_, n) => position[n * 3 + 2]!);
		const ys = dxf.entities.flatMap((e) => ('vertices' in e ? (e.vertices as { y: number }[]).map((v) => v.y) : []));
		expect(Math.max(...ys)).closeTo(Math.max(...heights), 0.001);
		expect(Math.min(...ys)).least(Math.min(...heights) - 0.001);
		const svg = new TextDecoder().decode(await fileOf(project, model, 'svg', { sheet: 'e', scale: 50 }));
		expect(new XMLParser().parse(svg)).have.property('svg');
		const fault = await fileOf(project, model, 'dxf', { sheet: 't' }).catch((e: Error) => e.message);
		expect(fault).contains('“Types” is no drawing');
	});

	it('in space have every cell, edge and node of the grid once, with their lengths (dxf-parser)', async () => {
		const { project, model } = await small();
		const { cells, nodes } = model.faces[0]!;
		const dxf = new DxfParser().parseSync(new TextDecoder().decode(await fileOf(project, model, 'space')))!;
		type Entity = { type: string; layer: string; vertices: { x: number; y: number; z: number }[] };
		const of = (type: string) => (dxf.entities as unknown as Entity[]).filter((e) => e.type === type);
		expect(of('POINT').length).equal(new Set(cells.corners).size);
		const far = ({ vertices: [a, b] }: Entity) => Math.hypot(b!.x - a!.x, b!.y - a!.y, b!.z - a!.z);
		const total = of('LINE').reduce((sum, e) => sum + far(e), 0);
		let right = 0;
		for (let e = 0; e < cells.edgeCount; e++) {
			const bends = cells.edgeBends
				? [...cells.edgeBends.nodes.subarray(cells.edgeBends.start[e], cells.edgeBends.start[e + 1])]
				: [];
			const line = [cells.edgeNodes[e * 2]!, ...bends, cells.edgeNodes[e * 2 + 1]!].map((n) =>
				[0, 1, 2].map((c) => nodes.position[n * 3 + c]!)
			);
			for (let k = 0; k + 1 < line.length; k++)
				right += Math.hypot(...[0, 1, 2].map((c) => line[k + 1]![c]! - line[k]![c]!));
		}
		expect(total).closeTo(right, 0.5);
		expect(new Set(of('3DFACE').map((e) => e.layer))).deep.equal(new Set(['C1-cells']));
		expect(of('3DFACE').length).least(cells.count);
	});
});

describe('cut sheets', () => {
	it('have the area of every type of thin pieces one to one, its holes, and its mark and count (dxf-parser)', async () => {
		const { project, model } = await ranDemo();
		const dxf = new DxfParser().parseSync(new TextDecoder().decode(await fileOf(project, model, 'cuts')))!;
		type Entity = { type: string; layer: string; vertices?: { x: number; y: number }[]; text?: string };
		const entities = dxf.entities as unknown as Entity[];
		const area = (points: { x: number; y: number }[]) =>
			points.reduce((sum, a, k) => {
				const b = points[(k + 1) % points.length]!;
				return sum + ((a.x - points[0]!.x) * (b.y - points[0]!.y) - (b.x - points[0]!.x) * (a.y - points[0]!.y)) / 2;
			}, 0);
		// Outer lines run anticlockwise, holes clockwise: together what is left of the sheets.
		const drawn = entities
			.filter((e) => e.layer === 'cut')
			.map((e) => area(e.vertices!))
			.reduce((sum, a) => sum + a, 0);
		const { types } = typesOf(model.faces, project.types);
		const marks = new Map(
			entities
				.filter((e) => e.layer === 'marks' && !e.text!.startsWith('Not laid flat'))
				.map((e) => [e.text!.split('  ')[0]!, e.text!])
		);
		const wanted = types.filter((type) => marks.has(type.mark));
		expect(wanted.length).greaterThan(5000);
		const right = wanted.reduce((sum, { face, row }) => sum + partsOf(model.faces[face]!).columns.area![row]!, 0);
		expect(drawn / right).closeTo(1, 1e-5);
		for (const type of wanted.slice(0, 200)) expect(marks.get(type.mark)).match(new RegExp(`^${type.mark}  [0-9 ]+`));
		// A framed pane's reveal goes around: it is cut open once and bent at the other corners.
		const bends = entities.filter((e) => e.layer === 'bends' && e.type === 'TEXT');
		expect(bends.length).greaterThan(1000);
		expect(bends.every((e) => /^[\d.]+\\U\+00B0 (back|front)$/.test(e.text!))).equal(true);
	});

	it('have round corners as arcs and round holes as circles, in DXF and in SVG (dxf-parser, svgpath)', async () => {
		const project = plain([]);
		const part = { role: 'panel', material: 'steel' } as const;
		project.kits = [
			kitOf([
				{ kind: 'outline', name: 'o' },
				{ kind: 'round', name: 'r', of: 'o', radius: 300, pieces: 6 },
				{ kind: 'inset', name: 'i', of: 'o', distance: 500 },
				{ kind: 'round', name: 'h', of: 'i', radius: 100, pieces: 8 },
				{ kind: 'plate', name: 'p', ...part, outline: 'r', thickness: 10, holes: ['h'] }
			]),
			{ ...STARTER_KITS.find((k) => k.id === 'flat-pane')!, id: 'screen', steps: kitOf([
				{ kind: 'outline', name: 'o' },
				{ kind: 'screen', name: 's', ...part, outline: 'o', opening: 'round', spacing: 400, share: 0.3, shareEnd: -1, margin: 100, thickness: 5 }
			]).steps }
		]; // prettier-ignore
		project.kits[1]!.parameters = [];
		setRules(
			project,
			project.kits.map((kit, k) => ({ id: `r${k}`, face: `block/wall-${k + 1}`, kit: kit.id, values: {} }))
		);
		const model = await run(project);
		const { types } = typesOf(model.faces, project.types);
		// Fields of 6 x 5.4 m with a frame, by hand; and screens, by the table.
		const areas = types.map(({ face, row }) => partsOf(model.faces[face]!).columns.area![row]!);
		const frame = 6000 * 5400 - (4 - Math.PI) * 300 ** 2 - (5000 * 4400 - (4 - Math.PI) * 100 ** 2);
		expect(areas.filter((_, t) => types[t]!.face === 0)).length(1);
		expect(areas[types.findIndex(({ face }) => face === 0)]).closeTo(frame, 1e-3);
		const right = areas.reduce((sum, area) => sum + area, 0);
		const { cuts } = cutDrawing(project, model).layers.reduce<{ cuts: readonly DrawnLine[] }>(
			(all, l) => (l.name === 'cut' ? { cuts: l.lines } : all),
			{ cuts: [] }
		);
		const dxf = new DxfParser().parseSync(new TextDecoder().decode(await fileOf(project, model, 'cuts')))!;
		type Entity = {
			type: string;
			layer: string;
			radius?: number;
			vertices?: { x: number; y: number; bulge?: number }[];
		};
		const entities = (dxf.entities as unknown as Entity[]).filter((e) => e.layer === 'cut');
		const circles = entities.filter((e) => e.type === 'CIRCLE');
		expect(circles.length)
			.equal(cuts.filter((l) => l.points.length === 4).length)
			.greaterThan(20);
		// By Green's theorem: chords, and under each arc r2 (angle - sine) / 2.
		const drawn = entities.reduce((sum, { radius, vertices }) => {
			if (radius !== undefined) return sum - Math.PI * radius ** 2;
			return vertices!.reduce((area, a, k) => {
				const b = vertices![(k + 1) % vertices!.length]!;
				const angle = 4 * Math.atan(a.bulge ?? 0);
				const r = angle ? Math.hypot(b.x - a.x, b.y - a.y) / (2 * Math.sin(angle / 2)) : 0;
				return area + (a.x * b.y - b.x * a.y + r * r * (angle - Math.sin(angle))) / 2;
			}, sum);
		}, 0);
		expect(drawn / right).closeTo(1, 1e-6);
		// The same lines as paths: their arcs as cubic curves, which enclose 0.03 % more than a circle does.
		const svg = new TextDecoder().decode(await fileOf(project, model, 'cutsvg'));
		let paths = 0;
		for (const [, d] of svg.matchAll(/ d="([^"]+)"/g)) paths -= pathArea(d!);
		expect(paths / right).closeTo(1, 1e-4);
	});

	it('are only of the role that is asked for, and one to one as SVG, too', async () => {
		const { project, model } = await small();
		const svg = new TextDecoder().decode(await fileOf(project, model, 'cutsvg', { role: 'pane' }));
		const { bounds } = cutDrawing(project, model, { role: 'pane' });
		const [, width, height] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg)!.map(Number);
		expect([width, height]).deep.equal(
			[bounds[2] - bounds[0] + 20, bounds[3] - bounds[1] + 20].map((v) => Number(v.toFixed(3)))
		);
		const all = new TextDecoder().decode(await fileOf(project, model, 'cutsvg'));
		const marks = (text: string) => new Set([...text.matchAll(/data-mark="([^"]+)"/g)].map((m) => m[1]![0]));
		expect([...marks(svg)]).deep.equal(['G']);
		expect([...marks(all)].sort()).deep.equal(['F', 'G', 'V']);
	});
});
