import { expect } from 'chai';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { kitOf, run } from './make.ts';

/** An upright cell seen from -y. */
const upright = (width: number, height: number) =>
	({
		kind: 'cell',
		points: [
			[0, 0, 0],
			[width, 0, 0],
			[width, 0, height],
			[0, 0, height]
		]
	}) as const;
const kit = STARTER_KITS.find((k) => k.id === 'louver-bank')!;

describe('louvers', () => {
	for (const tilt of [0, 20, 45])
		it(`leave free what plain geometry leaves, and keep out the sun above the cut-off, at a tilt of ${tilt} degrees`, async () => {
			const a = (tilt * Math.PI) / 180;
			const made = await run(kit, upright(1500, 1500), {
				spacing: 250,
				bladeDepth: 120,
				bladeThickness: 10,
				frame: 40,
				joint: 10,
				tilt: a
			});
			const blades = made.meshes('louvers');
			const pitch = made.value('pitch');
			expect(pitch).closeTo(1400 / Math.ceil(1400 / 250), 1e-9);
			// Each blade hides what its rectangle of depth D and thickness T, turned by the tilt, covers seen square: D sin a + T cos a.
			const heights = blades.map(({ positions }) => {
				const z = [...positions].filter((_, k) => k % 3 === 2);
				return [Math.min(...z), Math.max(...z)] as const;
			});
			const covered = heights.reduce((sum, [low, high]) => sum + high - low, 0);
			expect(heights[0]![1] - heights[0]![0]).closeTo(120 * Math.sin(a) + 10 * Math.cos(a), 1e-6);
			expect(made.value('freeArea')).closeTo(1 - covered / 1400, 1e-9);
			// The steepest ray that still comes through just passes the outer lower edge of one blade and the inner upper edge of the next below.
			// With o outwards and u up, a blade's depth runs along d = cos a o - sin a u and its thickness along t = sin a o + cos a u, so that
			// from one edge to the other it is P u + D d - T t: a rise of P - D sin a - T cos a over a run of D cos a - T sin a.
			// Measured on the made blades:
			const y = (k: number) => [...blades[k]!.positions].filter((_, i) => i % 3 === 1);
			const corner = (k: number, which: 'outer' | 'inner') => {
				const points = Array.from({ length: blades[k]!.positions.length / 3 }, (_, i) => [
					...blades[k]!.positions.subarray(i * 3, i * 3 + 3)
				]);
				const middle = (Math.min(...y(k)) + Math.max(...y(k))) / 2;
				return points.filter((p) => (which === 'outer' ? p[1]! < middle : p[1]! > middle));
			};
			const outer = corner(1, 'outer').reduce((m, p) => (p[2]! < m[2]! ? p : m));
			const inner = corner(0, 'inner').reduce((m, p) => (p[2]! > m[2]! ? p : m));
			const angle = Math.atan2(outer[2]! - inner[2]!, inner[1]! - outer[1]!);
			expect(made.value('cutOff')).closeTo(angle, 1e-9);
			expect(outer[2]!).lessThan(corner(1, 'inner').reduce((m, p) => Math.max(m, p[2]!), -Infinity));
		});

	it('stand by number or at a spacing at most, closed, with a twist from one end to the other', async () => {
		const steps = (more: object) =>
			kitOf([
				{ kind: 'outline', name: 'outline' },
				{
					kind: 'blades',
					name: 'blades',
					role: 'louver',
					material: 'aluminium',
					outline: 'outline',
					amount: 7,
					width: 10,
					depth: 100,
					...more
				}
			]);
		expect((await run(steps({}), upright(1000, 2100))).total('blades', 'pieces')).equal(7);
		const spaced = await run(steps({ by: 'spacing', amount: 300 }), upright(1000, 2100));
		expect(spaced.total('blades', 'pieces')).equal(7);
		expect((await run(steps({ by: 'spacing', amount: 299 }), upright(1000, 2100))).total('blades', 'pieces')).equal(8);
		for (const mesh of spaced.meshes('blades')) expect(meshVolume(mesh)).closeTo(1000 * 10 * 100, 1e-3);
		const twisted = await run(steps({ twist: 1 }), upright(1000, 2100));
		expect(meshVolume(twisted.meshes('blades')[0]!)).within(0.98e6, 1.01e6);
		expect((await run(steps({ margin: 1100 }), upright(1000, 2100))).failures[0]).match(
			/blades: there is no room for a blade/
		);
	});
});
