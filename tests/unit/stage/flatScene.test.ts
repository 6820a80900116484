import { expect } from 'chai';
import { toFlat, toPixel } from '../../../src/lib/stage/flatFrame.ts';
import { cellsSeen } from '../../../src/lib/stage/flatPainter.ts';
import { FlatScene } from '../../../src/lib/stage/flatScene.ts';
import { viewFlat } from '../../../src/core/view/flatView.ts';
import { viewFace } from '../../../src/core/view/faceView.ts';
import { originOf } from '../../../src/core/project/modelBatches.ts';
import { demoWith, fullDemo, run } from '../demo.ts';
import type { Project } from '../../../src/core/project/schema.ts';

async function sceneOf(project: Project, face = 0): Promise<FlatScene> {
	const model = await run(project);
	return new FlatScene(
		viewFace(model.faces[face]!, originOf(model), false, 'face'),
		viewFlat(model.faces[face]!, project.levels)
	);
}

describe('the flat scene', () => {
	it('finds each cell at its own middle, and none within an opening', async () => {
		for (const face of [0, 1, 2]) {
			const scene = await sceneOf(fullDemo(), face);
			for (let c = 0; c < scene.face.cellCount; c++) {
				if (scene.face.trim?.cut[c]) continue;
				expect(scene.cellAt(scene.middleOf(c))).equal(c);
			}
			for (const { places, role } of scene.flat.openings)
				if (role === 'opening') for (const [x, y] of places) expect(scene.cellAt([x, y + 300])).equal(undefined);
		}
	});

	it('numbers every row and column once, at the cells nearest to the border', async () => {
		const scene = await sceneOf(fullDemo(), 1);
		expect(scene.numbered.rows.map(([r]) => r)).deep.equal(Array.from({ length: 9 }, (_, k) => k));
		expect(scene.numbered.columns.map(([q]) => q)).deep.equal(Array.from({ length: 48 }, (_, k) => k));
		for (const [, c] of scene.numbered.rows) expect(scene.face.column[c]).equal(0);
	});

	it('snaps to corners within reach only', async () => {
		const scene = await sceneOf(demoWith(12, 12));
		const [corner] = scene.ringOf(30);
		expect(scene.cornerNear([corner![0] + 30, corner![1] - 40], 60)).deep.equal(corner);
		expect(scene.cornerNear([corner![0] + 300, corner![1] - 400], 60)).equal(undefined);
	});

	it('draws what is in the picture, and fewer lines than can be told apart', async () => {
		const scene = await sceneOf(demoWith(120, 200));
		const [x0, , x1, y1] = scene.bounds;
		const whole = { left: x0, top: y1, scale: 60 / (x1 - x0), width: 60, height: 130 };
		const sight = cellsSeen(scene, whole);
		expect(sight.every).greaterThan(9);
		expect(sight.cells.length).lessThan(24_000 / 4);
		// Every line that is drawn is drawn whole.
		expect(sight.cells.filter((c) => scene.face.row[c] === 0)).length(120);
		const near = { ...whole, scale: 1 };
		const seen = cellsSeen(scene, near);
		expect(seen.every).equal(1);
		expect(seen.cells.length).lessThan(20);
		expect(toFlat(near, toPixel(near, [x0 + 10, y1 - 20]))).deep.equal([x0 + 10, y1 - 20]);
	});

	it('draws levels where they cut', async () => {
		const scene = await sceneOf(fullDemo(), 1);
		expect(scene.flat.levels.map((l) => l.name)).include.members(['Concourse', 'Gallery']);
	});
});
