import { expect } from 'chai';
import { mixedLook } from '../../../src/lib/stage/mixedLook.ts';

/** A square of so many units of area in a material, as two triangles. */
const square = (material: string, area: number) => {
	const side = Math.sqrt(area);
	const positions = Float32Array.of(0, 0, 0, side, 0, 0, side, side, 0, 0, side, 0);
	return { material, positions, indices: Uint32Array.of(0, 1, 2, 0, 2, 3), owners: new Uint32Array(2) };
};
const face = (...squares: ReturnType<typeof square>[]) => ({ batches: squares, instances: [] }) as never;
const LOOKS = [
	{ id: 'white', colour: '#ffffff', opacity: 1 },
	{ id: 'black', colour: '#000000', opacity: 0 },
	{ id: 'red', colour: '#ff0000', opacity: 0.5 }
];

describe('how a face looks from afar', () => {
	it('is its only material, or nothing where it has none', () => {
		expect(mixedLook(face(square('red', 4)), LOOKS)).deep.equal({ colour: '#ff0000', opacity: 0.5 });
		expect(mixedLook(face(), LOOKS)).equal(undefined);
		expect(mixedLook(face(square('unknown', 4)), LOOKS)).equal(undefined);
	});

	it('is the light of all of them, each by its area, and their opacity', () => {
		// Half of the light of white is 188 of 255 as a screen is given it (IEC 61966-2-1), 192 in steps of 1/32.
		expect(mixedLook(face(square('white', 2), square('black', 2)), LOOKS)).deep.equal({
			colour: '#bfbfbf',
			opacity: 0.5
		});
		expect(mixedLook(face(square('white', 30), square('black', 2)), LOOKS)!.opacity).equal(30 / 32);
		// As often as a body stands there.
		const [{ indices, positions }, twice] = [square('red', 1), new Float32Array(32)];
		const instances = [{ material: 'white', indices, positions, matrices: twice }];
		expect(mixedLook({ batches: [square('black', 2)], instances } as never, LOOKS)).deep.equal({
			colour: '#bfbfbf',
			opacity: 0.5
		});
	});
});
