import { expect } from 'chai';
import { LineSegments, PerspectiveCamera } from 'three';
import { Memo } from '../../../src/core/project/memo.ts';
import { nearAndFar } from '../../../src/core/project/coarseCells.ts';
import { ModelViewer } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { DetailChoice, type Detail } from '../../../src/lib/stage/detail.ts';
import { ModelLayer } from '../../../src/lib/stage/modelLayer.ts';
import type { TurnedStep } from '../../../src/lib/stage/turnPace.ts';
import { demoWith, run } from '../demo.ts';
import { PLAIN_LOOK } from './look.ts';

async function viewOf(across: number, up: number) {
	const model = await run(demoWith(across, up), { memo: new Memo() });
	return { model, view: received(new ModelViewer().update(model, new Set(), 0, undefined), undefined) };
}

function cameraAt(metres: number): PerspectiveCamera {
	const camera = new PerspectiveCamera(32, 1.6, 0.1, 10_000);
	camera.position.set(0, -metres, 0);
	return camera;
}

describe('how much of a model is drawn', () => {
	it('is everything near by, panes where cells are a few pixels, and what is chosen by hand wherever', async () => {
		const { view } = await viewOf(24, 48);
		const choice = new DetailChoice();
		choice.setModel(view);
		const { key } = view.faces[0]!;
		const at = (metres: number, detail: Detail = 'auto', turned: TurnedStep = 'all') => {
			const { level, lines } = choice.levels(detail, cameraAt(metres), 800, turned).get(key)!;
			return lines ? `${level} lines` : level;
		};
		expect([at(40), at(120), at(5000)]).deep.equal(['full lines', 'full lines', 'panes']);
		expect([at(5000, 'full'), at(40, 'panes'), at(40, 'outlines')]).deep.equal([
			'full lines',
			'panes lines',
			'outlines lines'
		]);
		// While it is turned, as much is left out as is said; not of what was chosen by hand.
		expect([at(40, 'auto', 'panes'), at(40, 'auto', 'plain')]).deep.equal(['panes lines', 'panes']);
		expect([at(40, 'auto', 'coarse'), at(5000, 'auto', 'coarse')]).deep.equal(['coarse', 'coarse']);
		expect(at(40, 'full', 'plain')).equal('full lines');
	});

	it('is guessed by the triangles of its parts until it has been timed', async () => {
		const { view } = await viewOf(24, 48);
		const choice = new DetailChoice();
		choice.setModel(view);
		const [shown, bare] = [
			{ bare: false, coloured: undefined },
			{ bare: true, coloured: undefined }
		];
		const [face] = view.faces;
		expect(choice.turned(bare)).deep.equal({ size: face!.edgeCount, steps: ['all', 'plain'], guess: 'all' });
		expect(choice.turned(shown).guess).equal('all');
		expect(choice.turned(shown).size).above(2 * face!.edgeCount);
		const heavy = (indices: number, edgeCount = face!.edgeCount) =>
			choice.setModel({
				...view,
				faces: [{ ...face!, edgeCount, batches: [{ ...face!.batches[0]!, indices: new Uint32Array(indices * 3) }] }]
			});
		heavy(450_000);
		expect(choice.turned(shown).guess).equal('panes');
		expect(choice.turned(shown).steps).not.include('coarse');
		heavy(450_000, 20_000);
		expect(choice.turned(shown)).deep.include({ steps: ['all', 'panes', 'plain', 'coarse'], guess: 'panes' });
		expect(choice.turned({ bare: false, coloured: new Set() }).steps).deep.equal(['all', 'plain', 'coarse']);
		heavy(450_000, 60_000);
		expect([choice.turned(shown).guess, choice.turned(bare).guess]).deep.equal(['plain', 'plain']);
	});

	it('shows parts or panes of a face, and its lines where they are wanted', async () => {
		const { model, view } = await viewOf(6, 5);
		const { hash, key } = view.faces[0]!;
		const panes = new Map([[hash, nearAndFar(model.faces[0]!, view.origin)]]);
		const layer = new ModelLayer();
		layer.show(view, { ...PLAIN_LOOK, panes });
		const seen = () => layer.object.children.map((c) => c.visible);
		layer.setLevels(new Map([[key, { level: 'full', lines: true }]]));
		const full = seen();
		layer.setLevels(new Map([[key, { level: 'panes', lines: true }]]));
		const plain = seen();
		layer.setLevels(new Map([[key, { level: 'outlines', lines: true }]]));
		const outlines = seen();
		layer.setLevels(new Map([[key, { level: 'panes', lines: false }]]));
		const turned = seen();
		layer.setLevels(new Map([[key, { level: 'coarse', lines: false }]]));
		const coarse = seen();
		const count = (list: boolean[]) => list.filter(Boolean).length;
		expect([count(full), count(plain), count(outlines), count(turned), count(coarse)]).to.deep.equal([2, 2, 1, 1, 1]);
		for (const other of [plain, turned]) expect(other).not.to.deep.equal(full);
		expect(coarse).not.to.deep.equal(turned);
	});

	it('keeps the lines of a face whose panes have not come, so that it never vanishes; those of bare faces do', async () => {
		const { view } = await viewOf(6, 5);
		const { key } = view.faces[0]!;
		const linesOf = (look: typeof PLAIN_LOOK) => {
			const layer = new ModelLayer();
			layer.show(view, look);
			layer.setLevels(new Map([[key, { level: 'coarse', lines: false }]]));
			return layer.object.children.filter((c) => c instanceof LineSegments && c.visible).length;
		};
		expect([linesOf(PLAIN_LOOK), linesOf({ ...PLAIN_LOOK, bare: true })]).deep.equal([1, 0]);
	});
});
