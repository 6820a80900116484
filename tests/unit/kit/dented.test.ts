import { expect } from 'chai';
import { meshArea } from '../../../src/core/mesh/triangleMesh.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { kitOf, rectangle, regular, run } from './make.ts';

const part = { role: 'panel', material: 'steel' } as const;

describe('thin and thick parts of outlines that are dented', () => {
	/** An L of six points in a cell of 1200 x 900: the corners go around the dent. */
	const points = [
		['a', 0, 0],
		['b', 1, 0],
		['c', 1, 0.4],
		['d', 0.5, 0.4],
		['e', 0.5, 1],
		['f', 0, 1]
	] as const;
	const byHand = 1200 * 900 - 600 * 540;

	for (const first of [0, 1, 2, 3, 4, 5])
		it(`have the area and volume of the outline, begun at corner ${first + 1}`, async () => {
			const names = points.map((_, k) => points[(k + first) % 6]![0]);
			const kit = kitOf([
				{ kind: 'outline', name: 'cell' },
				{ kind: 'corner', name: 'a', corner: 1 },
				{ kind: 'corner', name: 'b', corner: 2 },
				{ kind: 'corner', name: 'f', corner: 4 },
				{ kind: 'side', name: 'right', of: 'cell', side: 2 },
				{ kind: 'along', name: 'c', of: 'right', at: 0.4 },
				{ kind: 'side', name: 'top', of: 'cell', side: 3 },
				{ kind: 'along', name: 'e', of: 'top', at: 0.5 },
				{ kind: 'side', name: 'bottom', of: 'cell', side: 1 },
				{ kind: 'along', name: 'g', of: 'bottom', at: 0.5 },
				{ kind: 'line', name: 'middle', through: ['g', 'e'] },
				{ kind: 'along', name: 'd', of: 'middle', at: 0.4 },
				{ kind: 'line', name: 'el', through: names, closed: true },
				{ kind: 'sheet', name: 'sheet', ...part, outline: 'el', thickness: 3 },
				{ kind: 'plate', name: 'plate', ...part, outline: 'el', thickness: 10 }
			] as Parameters<typeof kitOf>[0]);
			const made = await run(kit, rectangle(1200, 900));
			expect(made.failures).deep.equal([]);
			for (const name of ['sheet', 'plate']) expect(made.total(name, 'area')).closeTo(byHand, 1e-6);
			expect(made.total('plate', 'volume')).closeTo(byHand * 10, 1e-5);
			expect(meshArea(made.meshes('sheet')[0]!)).closeTo(byHand, 1e-6);
			const [plate] = made.meshes('plate');
			expect(meshVolume(plate!)).closeTo(byHand * 10, 1e-5);
			const around = 2 * (1200 + 900);
			expect(meshArea(plate!)).closeTo(2 * byHand + around * 10, 1e-5);
		});

	it('as stars are: arms by hand', async () => {
		const kit = kitOf([
			{ kind: 'outline', name: 'cell' },
			{ kind: 'middle', name: 'hub', of: ['cell'] },
			{ kind: 'star', name: 'shape', at: 'hub', of: 'cell', radius: 200, width: 60 },
			{ kind: 'lift', name: 'above', of: 'shape', distance: 30 },
			{ kind: 'plate', name: 'plate', ...part, outline: 'above', thickness: 12 }
		] as Parameters<typeof kitOf>[0]);
		const made = await run(kit, regular(4, 1000));
		expect(made.failures).deep.equal([]);
		// A cross of two bars of 400 x 60, which have a square of 60 in common.
		const byHand = 2 * 400 * 60 - 60 * 60;
		expect(made.total('plate', 'area')).closeTo(byHand, 1e-6);
		expect(meshVolume(made.meshes('plate')[0]!)).closeTo(byHand * 12, 1e-6);
		expect(meshArea(made.meshes('plate')[0]!)).closeTo(2 * byHand + 12 * (8 * 170 + 4 * 60), 1e-5);
	});

	for (const n of [1, 2, 3, 6])
		it(`as round hubs with ${n} slots are: drawn nearly as large as they are, also where a border has few slots`, async () => {
			const kit = kitOf(
				[
					{ kind: 'outline', name: 'around' },
					{ kind: 'corner', name: 'hub', corner: 0 },
					{ kind: 'star', name: 'shape', at: 'hub', of: 'around', shape: 'slots', radius: 70, width: 14, inner: 30 },
					{ kind: 'plate', name: 'plate', ...part, outline: 'shape', thickness: 160 }
				] as Parameters<typeof kitOf>[0],
				[],
				{ kind: 'node' }
			);
			const made = await run(kit, { kind: 'node', points: [[0, 0, 0], ...regular(n, 1000).points] });
			// Off the disc go slots of 14, from 30 to where their sides meet the round: a strip, and the round cap beyond its end.
			const [r, w, m] = [70, 14, 30];
			const reach = Math.sqrt(r * r - (w * w) / 4);
			const slot = (reach - m) * w + r * r * Math.asin(w / 2 / r) - (w / 2) * reach;
			const byHand = Math.PI * r * r - n * slot;
			expect(made.total('plate', 'area') / byHand).closeTo(1, 1e-9);
			expect(meshVolume(made.meshes('plate')[0]!) / 160 / byHand).within(0.985, 1);
		});
});
