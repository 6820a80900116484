import { expect } from 'chai';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import type { PatternGeometry } from '../../../src/core/kit/result.ts';
import { pathsOf } from '../../../src/core/placement/paths.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { placed, withRules } from './make.ts';

/** Fins up the demo's canopy, their depth from 100 to 1100 mm by the height of each point. */
function fins(change: (project: Project) => void = () => undefined): Project {
	const project = withRules([], 8, 6);
	project.kits = [kitSchema.parse(STARTER_KITS.find((k) => k.id === 'path-fin'))];
	project.fields.push({
		id: 'high',
		name: 'High',
		source: { kind: 'height' },
		range: [0, 20_000]
	} as never);
	const values = { depth: { kind: 'field', field: 'high', from: 100, to: 1100 } };
	project.rules = [{ id: 'f', set: 'paths', faces: ['canopy/skin'], where: [], kit: 'path-fin', values }] as never;
	change(project);
	return project;
}

/** Where the sheet's line at the path and its outer line are, point by point of the first fin: half a sheet off each way at most. */
async function depths(project: Project) {
	const { face, jobs } = await placed(project);
	const placement = face.placements.find((p) => p.kit.id === 'path-fin')!;
	const { points, pointsPerHost } = placement.parts[0]!.geometry as PatternGeometry;
	const paths = pathsOf(face, 'up', 1);
	return { face, jobs, points, pointsPerHost, paths };
}

describe('values that follow a field along a path', () => {
	it('stand at each of its points: depths of a fin by hand from the heights of its nodes', async () => {
		const { face, jobs, points, paths } = await depths(fins());
		expect(jobs).to.have.length(1);
		const count = paths.cornerStart[1]!;
		for (let k = 0; k < count; k++) {
			const node = paths.corners[k]! * 3;
			const at = (o: number) => [points[o]!, points[o + 1]!, points[o + 2]!];
			// A path's own line stands first, then what is lifted off it: the foot, and the edge beyond that.
			const [foot, edge] = [at((count + k) * 3), at((2 * count + k) * 3)];
			const depth = Math.hypot(...foot.map((x, c) => edge[c]! - x));
			expect(depth, `point ${k}`).to.be.closeTo(100 + (face.nodes.position[node + 2]! / 20_000) * 1000, 1e-6);
		}
	});

	it('are held between the limits of the kit, and change when the field does', async () => {
		const { jobs } = await depths(
			fins(
				(p) =>
					((p.rules[0]!.values as Record<string, unknown>).depth = {
						kind: 'field',
						field: 'high',
						from: -500,
						to: 90_000
					})
			)
		);
		const column = jobs[0]!.points!.depth!;
		expect(Math.min(...column)).to.be.at.least(10);
		expect(Math.max(...column)).to.be.at.most(5000);
		const before = (await placed(fins())).jobs[0]!.hash;
		const after = (await placed(fins((p) => ((p.fields.at(-1) as { range: number[] }).range = [0, 10_000])))).jobs[0]!
			.hash;
		expect(after).not.to.equal(before);
	});

	it('are there on drawn paths beside the nodes, too', async () => {
		const { face, jobs } = await placed(
			fins((p) => {
				p.paths.push({
					id: 'cut',
					name: 'Cut',
					mark: 'CU',
					face: 'canopy/skin',
					source: { kind: 'cut', point: [0, 0, 0], normal: [1, 0, 0] },
					closed: false,
					lift: 0,
					spacing: 900,
					mirrored: false,
					weave: 0
				} as never);
				p.rules[0]!.where = [{ kind: 'path', paths: ['cut'] }];
			})
		);
		const drawn = face.drawn!;
		expect(drawn.count).to.be.at.least(1);
		const column = jobs[0]!.points!.depth!;
		const first = face.nodes.position.length / 3;
		expect(column).to.have.length(first + drawn.position.length / 3);
		for (let k = 0; k * 3 < drawn.position.length; k++)
			expect(column[first + k]!).to.be.closeTo(100 + (drawn.position[k * 3 + 2]! / 20_000) * 1000, 1e-6);
	});
});
