import { expect } from 'chai';
import { PerspectiveCamera } from 'three';
import type { FaceView } from '../../../src/core/view/faceView.ts';
import { cellsInBox } from '../../../src/lib/stage/boxChoice.ts';

/** A wall of 4 by 3 squares of a metre in the plane y = 0, its outside to the south, about the origin. */
function wall(hidden = false): FaceView {
	const nodes = Array.from({ length: 20 }, (_, n) => [
		((n % 5) - 2) * 1000,
		0,
		(Math.floor(n / 5) - 1.5) * 1000
	]).flat();
	const corners = Array.from({ length: 12 }, (_, c) => {
		const n = Math.floor(c / 4) * 5 + (c % 4);
		return [n, n + 1, n + 6, n + 5];
	}).flat();
	return {
		hidden,
		cellCount: 12,
		cornerStart: Uint32Array.from({ length: 13 }, (_, c) => c * 4),
		corners: Uint32Array.from(corners),
		nodes: Float32Array.from(nodes)
	} as FaceView;
}
const from = (y: number) => {
	const camera = new PerspectiveCamera(60, 1, 0.1, 100);
	camera.up.set(0, 0, 1);
	camera.position.set(0, y, 0);
	camera.lookAt(0, 0, 0);
	camera.updateMatrixWorld();
	return camera;
};
const all = { left: -1, right: 1, bottom: -1, top: 1 };

describe('a rectangle dragged over the picture', () => {
	it('takes the cells whose middles it holds, and that look at the eye', () => {
		expect(cellsInBox([wall()], from(-10), all).length).equal(12);
		expect(cellsInBox([wall()], from(10), all)).deep.equal([]);
		expect(cellsInBox([wall(true)], from(-10), all)).deep.equal([]);
		// Right half: two of the four columns; upper half: the upper row, as the middle one lies on the border.
		expect(cellsInBox([wall()], from(-10), { ...all, left: 0 }).map((a) => a.cell)).deep.equal([2, 3, 6, 7, 10, 11]);
		expect(cellsInBox([wall()], from(-10), { ...all, bottom: 0.05 }).map((a) => a.cell)).deep.equal([8, 9, 10, 11]);
	});

	it('measures as the eye does: a middle at 0.5 m of 10 m stands at 0.5 / (10 tan 30°) of the picture', () => {
		const at = 0.5 / (10 * Math.tan(Math.PI / 6));
		const narrow = (by: number) =>
			cellsInBox([wall()], from(-10), { ...all, left: 0, right: at + by }).map((a) => a.cell % 4);
		expect(new Set(narrow(1e-4))).deep.equal(new Set([2]));
		expect(narrow(-1e-4)).deep.equal([]);
	});
});
