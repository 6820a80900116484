import { expect } from 'chai';
import { viewFlat } from '../../../src/core/view/flatView.ts';
import { addOpening } from '../../../src/lib/editor/openings.ts';
import { middleOf, ownBorder, roomFor } from '../../../src/lib/editor/openingPlace.ts';
import { demoWith, fullDemo, run } from '../demo.ts';

describe('where new openings go', () => {
	it('is beside those that are there, on the face, until there is no more room', async () => {
		const project = demoWith(12, 24);
		const face = project.masses[0]!.faces[0]!;
		const boxes: [number, number, number, number][] = [];
		for (let k = 0; k < 6; k++) {
			const model = await run(project);
			const laid = viewFlat(model.faces[0]!, []);
			const [x, y] = roomFor(laid, 4000, 3000);
			for (const [x0, y0, x1, y1] of boxes) expect(x + 2000 <= x0 || x - 2000 >= x1 || y + 3000 <= y0 || y >= y1).true;
			const [bx0, by0, bx1, by1] = laid.bounds;
			expect(x - 2000 >= bx0 && x + 2000 <= bx1 && y >= by0 && y + 3000 <= by1).true;
			boxes.push([x - 2000, y, x + 2000, y + 3000]);
			addOpening(face, {
				outline: { kind: 'rectangle', width: 4000, height: 3000 },
				place: { kind: 'face', across: x, up: y }
			});
		}
		const laid = viewFlat((await run(project)).faces[0]!, []);
		expect(roomFor(laid, 1e6, 1e6)).deep.equal(middleOf(laid));
	});

	it('of a border is the face’s own, which leaves nothing out and cuts nothing', async () => {
		const project = fullDemo();
		for (const mass of project.masses) {
			const face = mass.faces[0]!;
			if (mass.shape.kind === 'revolution') continue;
			face.openings = [];
			const before = (await run(project)).faces.find((f) => f.mark === face.mark)!;
			const laid = viewFlat(before, []);
			const [across, up] = middleOf(laid);
			addOpening(face, {
				role: 'border',
				outline: { kind: 'polygon', points: ownBorder(laid) },
				place: { kind: 'face', across, up },
				turn: -laid.rowTurn
			});
			const after = (await run(project)).faces.find((f) => f.mark === face.mark)!;
			expect(after.cells.count, mass.name).equal(before.cells.count);
			const cut = (f: typeof after) => f.cells.trim?.cut.reduce((a, b) => a + b, 0) ?? 0;
			expect(cut(after), mass.name).equal(cut(before));
		}
	});
});
