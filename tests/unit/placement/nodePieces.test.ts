import { expect } from 'chai';
import { evaluateTrial } from '../../../src/core/placement/trial.ts';
import { hostsFor } from '../../../src/core/placement/limits.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { eachPiece, type PieceWords } from '../../../src/core/formats/pieceRows.ts';
import { edgeMark } from '../../../src/core/tiling/marks.ts';
import { solids } from '../kit/make.ts';
import { placed, withRules } from './make.ts';

const starter = (id: string) => kitSchema.parse(STARTER_KITS.find((k) => k.id === id));
const onFlat = async (id: string, values: Record<string, number>, valence: string) => {
	const kit = starter(id);
	const host = hostsFor(kit).find((h) => h.id === valence)!;
	const ran = evaluateTrial(kit, values, host, {
		library: new Map(),
		modules: new Map(),
		densities: {},
		solids: await solids()
	} as never);
	if ('error' in ran) throw new Error(ran.error.message);
	expect(ran.result.failures).to.deep.equal([]);
	return ran.result.parts[0]!;
};

describe('node pieces that know their bars', () => {
	it('a plate with arms is its arms less what they share, and full in the middle', async () => {
		// Four arms of 60 to 180 mm share the square of 60 x 60 in the middle: 4 x 180 x 60 - 3600 (by hand).
		const { volume, pieces } = await onFlat('arm-plate', { disc: 0, reach: 180, arm: 60, plate: 15 }, 'four');
		expect(pieces[0]).to.equal(1);
		expect(volume[0]!).to.be.closeTo((4 * 180 * 60 - 60 * 60) * 15, 1e-3);
		// With a full middle of 160 each of the four inner corners goes out to 80 mm on its diagonal: two triangles more each.
		const full = await onFlat('arm-plate', { disc: 160, reach: 180, arm: 60, plate: 15 }, 'four');
		const corner = 80 / Math.SQRT2 - 30;
		expect(full.volume[0]! - volume[0]!).to.be.closeTo(4 * corner * (180 - 30) * 15, 1e-3);
	});

	it('a hub loses a slot for each bar', async () => {
		const values = { diameter: 140, height: 160, slot: 14, core: 60 };
		for (const [valence, slots] of [
			['three', 3],
			['four', 4],
			['six', 6]
		] as const) {
			const { volume } = await onFlat('slotted-hub', values, valence);
			// A slot goes from 30 mm out to the round surface at 70 mm: a strip of 14 mm that ends in an arc.
			const arc = 70 * 70 * Math.asin(7 / 70) + 7 * Math.sqrt(70 * 70 - 7 * 7);
			const slot = arc - 14 * 30;
			expect(volume[0]! / ((Math.PI * 70 * 70 - slots * slot) * 160), valence).to.be.closeTo(1, 1e-6);
		}
	});

	it('name the edges that they hold: arms their own, others all of them in order', async () => {
		const project = withRules([], 6, 5);
		project.kits = [starter('node-disc'), starter('arm-plate')];
		const arms = kitSchema.parse({
			...starter('spider-bracket'),
			id: 'arms',
			host: { kind: 'node', nodes: 'all' },
			steps: starter('spider-bracket').steps.map((s) => (s.name === 'arms' ? { ...s, what: 'spokes' } : s))
		});
		project.kits.push(arms);
		project.rules = ['node-disc', 'arms'].map((kit, k) => ({
			id: `n${k}`,
			set: k === 0 ? 'nodes' : 'nodes-2',
			faces: ['canopy/skin'],
			where: [],
			kit,
			values: {}
		})) as never;
		project.sets.push({ id: 'nodes-2', name: 'More', host: 'node' });
		const { model, face } = await placed(project);
		const rows: PieceWords[] = [];
		eachPiece(project, model, (words) => rows.push(words));
		const discs = rows.filter((r) => r.part === 'discs');
		const bars = rows.filter((r) => r.part === 'armBars');
		expect(discs).to.have.length(7 * 6);
		// Every edge has two ends, so that there are twice as many arms as edges, and every edge is named twice.
		expect(bars).to.have.length(2 * face.cells.edgeCount);
		const named = new Map<string, number>();
		for (const { towards } of bars) named.set(towards, (named.get(towards) ?? 0) + 1);
		const source = { ...face.cells, mark: face.mark, template: face.schedule.template };
		for (let e = 0; e < face.cells.edgeCount; e++) expect(named.get(edgeMark(source, e))).to.equal(2);
		// What a disc names is what the arms at its node name, in the same order.
		for (const disc of discs)
			expect(disc.towards).to.equal(
				bars
					.filter((b) => b.hostMark === disc.hostMark)
					.map((b) => b.towards)
					.join(' ')
			);
		expect(rows.filter((r) => r.hostKind !== 'node').every((r) => r.towards === '')).to.equal(true);
	});
});
