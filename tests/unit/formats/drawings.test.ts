import { expect } from 'chai';
import DxfParser from 'dxf-parser';
import { XMLParser } from 'fast-xml-parser';
import { developedDrawing } from '../../../src/core/drawing/developedDrawing.ts';
import { demoWith, run, shippedDemo } from '../demo.ts';
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
});
