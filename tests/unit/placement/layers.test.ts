import { expect } from 'chai';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { placed, withRules } from './make.ts';

/** The demo's canopy in 6 by 4 fields with a second layer, and these starters on it. */
function frame(layer: number, kits: readonly string[]): Project {
	const project = withRules([], 6, 4);
	project.kits = kits.map((id) => kitSchema.parse(STARTER_KITS.find((k) => k.id === id)));
	project.rules = project.kits.map((kit) => ({
		id: `r-${kit.id}`,
		set: kit.host.kind === 'box' ? 'panels' : kit.host.kind === 'node' ? 'nodes' : 'edges',
		faces: ['canopy/skin'],
		where: [],
		kit: kit.id,
		values: {}
	})) as never;
	for (const mass of project.masses)
		for (const face of mass.faces) if (face.id === 'skin') face.settingOut.layer = layer;
	return project;
}

const [across, up] = [6, 4];
const EDGES = across * (up + 1) + up * (across + 1);
const NODES = (across + 1) * (up + 1);

describe('frames in two layers', () => {
	it('have chords, posts and diagonals as often as edges, nodes and corners: counted by hand', async () => {
		const expected = {
			'layer-chord': EDGES,
			'layer-chord-upper': EDGES,
			'layer-chord-middles': EDGES - 2 * (across + up),
			'layer-post': NODES,
			'layer-rising': EDGES,
			'layer-web': 4 * across * up
		};
		// One rule of a set takes a host, so that kits of one set are tried by themselves.
		for (const [id, pieces] of Object.entries(expected)) {
			const { face, model } = await placed(frame(-600, [id]));
			expect(model.warnings.filter((w) => w.stage === 'placement')).deep.equal([]);
			const made = face.placements.flatMap((p) => p.parts.flatMap((part) => [...part.pieces]));
			expect(
				made.reduce((a, b) => a + b, 0),
				id
			).equal(pieces);
		}
	});

	it('stand as far apart as the layers: posts are as long, diagonals go over edge and depth', async () => {
		const { face } = await placed(frame(-600, ['layer-post']));
		const [post] = face.placements.flatMap((p) => p.parts);
		for (const length of post!.length) expect(length).closeTo(600, 1e-6);
		const { face: webbed } = await placed(frame(-600, ['layer-rising']));
		const bars = webbed.placements.flatMap((p) => p.parts)[0]!;
		const { position, normal } = webbed.nodes;
		const { edgeNodes, edgeCount } = webbed.cells;
		for (let e = 0; e < edgeCount; e++) {
			// Edges run to the right or upwards.
			const [a, b] = [edgeNodes[e * 2]!, edgeNodes[e * 2 + 1]!].sort((x, y) => x - y) as [number, number];
			const to = [0, 1, 2].map((c) => position[b * 3 + c]! - 600 * normal[b * 3 + c]!);
			const whole = Math.hypot(...to.map((x, c) => x - position[a * 3 + c]!));
			expect(bars.length[e]!).within(whole - 400, whole);
		}
	});

	it('say that a second layer is missing, by the name that it has on screen', async () => {
		for (const id of ['layer-chord-upper', 'layer-post']) {
			const { model } = await placed(frame(0, [id]));
			expect(model.warnings.map((w) => w.message).join('\n'), id).match(
				/second layer.* whose distance is set under Setting-out/
			);
		}
	});

	it('follow the layer when its distance changes, and nothing else does', async () => {
		const project = frame(-600, ['layer-chord-upper']);
		const first = await placed(project);
		const total = ({ face }: Awaited<ReturnType<typeof placed>>) =>
			face.placements[0]!.parts[0]!.length.reduce((a, b) => a + b, 0);
		project.masses[0]!.faces[0]!.settingOut.layer = -1200;
		const second = await placed(project);
		expect(total(second)).not.closeTo(total(first), 1);
	});
});
