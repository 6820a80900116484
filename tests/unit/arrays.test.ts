import { expect } from 'chai';
import { ArrayPool, firstOf, type ArraySource } from '../../src/core/arrays.ts';
import { READING_NAMES } from '../../src/core/readings/faceReadings.ts';
import { frustum, hypar, sphereZone } from './surfaces.ts';
import { ALL_TILINGS, tile, type Tiled, type TilingInput } from './tile.ts';

/** Bytes that no stage makes. */
const SOIL = 0xa5;

/** Arrays that hold something already when they are handed out, and something else once they are spared. */
function soiledArrays(): ArraySource {
	const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView) =>
		new Uint8Array(buffer, byteOffset, byteLength);
	const soiled = <T extends ArrayBufferView>(array: T): T => (bytesOf(array).fill(SOIL), array);
	const handedOut = new Set<ArrayBufferLike>();
	const out = <T extends ArrayBufferView>(array: T): T => {
		handedOut.add(array.buffer);
		return soiled(array);
	};
	return {
		float64: (length) => out(new Float64Array(length)),
		uint32: (length) => out(new Uint32Array(length)),
		int32: (length) => out(new Int32Array(length)),
		uint8: (length) => out(new Uint8Array(length)),
		spare: (...arrays) => arrays.forEach((array) => handedOut.delete(array.buffer) && soiled(array))
	};
}

/** All of a tiled face, and all that is read of it. */
const wholeOf = ({ nodes, cells, all }: Tiled) => ({
	nodes,
	cells,
	readings: Object.fromEntries(READING_NAMES.map((name) => [name, all.column(name)]))
});

describe('arrays that are used again', () => {
	const faces = {
		'an open face': hypar(0.00004, 9000, 7000),
		'a tube': frustum(3000, 2000, 4000),
		'a dome': sphereZone(3000, -0.4, Math.PI / 2)
	};
	for (const [name, surface] of Object.entries(faces))
		it(`change nothing of tilings and readings, whatever they held before, on ${name}`, () => {
			let tried = 0;
			for (const tiling of ALL_TILINGS as readonly TilingInput[]) {
				let plain: Tiled;
				try {
					plain = tile(surface, 24, 24, tiling);
				} catch {
					// Not every tiling fits every face.
					continue;
				}
				tried++;
				const again = tile(surface, 24, 24, tiling, [], soiledArrays());
				expect(wholeOf(again), tiling.kind).deep.equal(wholeOf(plain));
			}
			expect(tried).greaterThan(15);
		});

	it('are handed out once only until they are given back or spared', () => {
		const pool = new ArrayPool();
		const lease = pool.lease();
		const [a, b] = [lease.float64(10_000), lease.uint32(20_000)];
		expect(a.buffer).not.equal(b.buffer);
		lease.spare(a);
		lease.spare(a);
		expect(lease.buffers).deep.equal([b.buffer]);
		const [c, d] = [lease.float64(10_000), lease.float64(10_000)];
		expect(c.buffer).equal(a.buffer);
		expect(d.buffer).not.equal(a.buffer);
		pool.giveBack(lease.buffers);
		expect(pool.lease().int32(20_000).buffer).to.be.oneOf([a.buffer, b.buffer, d.buffer]);
	});

	it('of others are not taken for spared', () => {
		const pool = new ArrayPool();
		const foreign = new Float64Array(10_000);
		pool.lease().spare(foreign);
		expect(pool.lease().float64(10_000).buffer).not.equal(foreign.buffer);
	});

	it('are cut to what is used of them', () => {
		const source = soiledArrays();
		for (const kind of ['float64', 'uint32', 'int32', 'uint8'] as const) {
			const array = source[kind](5);
			array.set([1, 2, 3, 4, 5]);
			expect(firstOf(source, array, 5)).equal(array);
			const first = firstOf(source, array, 3);
			expect([...first]).deep.equal([1, 2, 3]);
			expect(first.constructor).equal(array.constructor);
		}
	});
});
