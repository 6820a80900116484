import { expect } from 'chai';
import type { TrialPoint } from '../../../src/core/kit/trialHosts.ts';
import { far, kitOf, run } from './make.ts';

/*
 * Frames that turn least (Wang et al., Computation of rotation minimizing frames, ACM TOG 27(1), 2008, memory): on a plane
 * curve they stand still to its plane; on a helix they turn against the Frenet frame by torsion times length.
 */
const kit = (closed = false) =>
	kitOf(
		[
			{ kind: 'outline', name: 'path' },
			{
				kind: 'bar',
				name: 'rib',
				role: 'rod',
				material: 'steel',
				line: 'path',
				profile: 'rectangle',
				width: 20,
				depth: 100,
				frame: 'least'
			}
		],
		[],
		{ kind: 'path', along: closed ? 'up' : 'across', every: 1 }
	);

/** Corners of the section at the start and end of each piece: four a section. */
async function sections(points: readonly TrialPoint[], closed = false): Promise<TrialPoint[][]> {
	const made = await run(kit(closed), { kind: 'path', points, ...(closed ? { closed: true } : {}) });
	expect(made.failures).deep.equal([]);
	const { positions } = made.meshes('rib')[0]!;
	// The host's own points stand first.
	const own = Array.from({ length: positions.length / 3 - points.length }, (_, k): TrialPoint => {
		const o = (k + points.length) * 3;
		return [positions[o]!, positions[o + 1]!, positions[o + 2]!];
	});
	return Array.from({ length: own.length / 4 }, (_, s) => own.slice(s * 4, s * 4 + 4));
}

/** Way of the section's depth, made square to a way. */
function depthWay(section: readonly TrialPoint[], along: readonly number[]): number[] {
	const [a, b] = [section[1]!, section[2]!];
	const d = [0, 1, 2].map((c) => b[c]! - a[c]!);
	const off = d.reduce((s, x, c) => s + x * along[c]!, 0);
	const flat = d.map((x, c) => x - off * along[c]!);
	const size = Math.hypot(...flat);
	return flat.map((x) => x / size);
}

describe('sections that turn least', () => {
	it('stay square to the plane of a circle, and meet from piece to piece', async () => {
		const circle = Array.from({ length: 13 }, (_, k): TrialPoint => {
			const a = (k / 12) * Math.PI * 1.5;
			return [5000 * Math.cos(a), 5000 * Math.sin(a), 0];
		});
		const found = await sections(circle);
		for (let s = 1; s + 1 < found.length; s += 2)
			for (let k = 0; k < 4; k++) expect(far(found[s]![k]!, found[s + 1]![k]!)).lessThan(1e-9);
		const tilt = (section: readonly TrialPoint[]) => Math.max(...section.map((p) => p[2]));
		for (const section of found) expect(tilt(section)).closeTo(tilt(found[0]!), 1e-9);
	});

	it('turn against the Frenet frame of a helix by torsion times length', async () => {
		const [a, c, turns, n] = [3000, 800, 1.5, 400];
		const size = Math.hypot(a, c);
		const at = (t: number): TrialPoint => [a * Math.cos(t), a * Math.sin(t), c * t];
		const last = turns * 2 * Math.PI;
		const found = await sections(Array.from({ length: n + 1 }, (_, k) => at((last * k) / n)));
		const frenet = (t: number) => {
			const along = [(-a * Math.sin(t)) / size, (a * Math.cos(t)) / size, c / size];
			const normal = [-Math.cos(t), -Math.sin(t), 0];
			const binormal = [
				along[1]! * normal[2]! - along[2]! * normal[1]!,
				along[2]! * normal[0]! - along[0]! * normal[2]!,
				along[0]! * normal[1]! - along[1]! * normal[0]!
			];
			return { along, normal, binormal };
		};
		const angle = (section: readonly TrialPoint[], t: number) => {
			const { along, normal, binormal } = frenet(t);
			const y = depthWay(section, along);
			const dot = (v: number[]) => v.reduce((s, x, k) => s + x * y[k]!, 0);
			return Math.atan2(dot(binormal), dot(normal));
		};
		const middle = last / n / 2;
		const turned = angle(found.at(-1)!, last - middle) - angle(found[0]!, middle);
		const torsion = c / (a * a + c * c);
		const expected = -torsion * size * (last - 2 * middle);
		const miss = (turned - expected) / (2 * Math.PI);
		expect(Math.abs(miss - Math.round(miss)) * 2 * Math.PI).lessThan(2e-3);
		for (let s = 1; s + 1 < found.length; s += 2)
			for (let k = 0; k < 4; k++) expect(far(found[s]![k]!, found[s + 1]![k]!)).lessThan(1e-6);
	});

	it('close on a ring that leaves its plane: the turn that is left over is taken up on the way', async () => {
		const ring = Array.from({ length: 60 }, (_, k): TrialPoint => {
			const t = (k / 60) * 2 * Math.PI;
			return [4000 * Math.cos(t), 4000 * Math.sin(t), 900 * Math.sin(2 * t) + 500 * Math.cos(t)];
		});
		const found = await sections(ring, true);
		expect(found).lengthOf(120);
		for (let s = 0; s < 60; s++)
			for (let k = 0; k < 4; k++) expect(far(found[s * 2 + 1]![k]!, found[(s * 2 + 2) % 120]![k]!)).lessThan(0.5);
	});
});
